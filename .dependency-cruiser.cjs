/** Who may import whom: core nothing of ours; api core; server core, api; web core, api; cli core, api, server. */
const only = (from, allowed) => ({
  name: `${from}-imports`,
  severity: "error",
  comment: `${from}/ may import only ${[from, ...allowed].join(", ")} and packages`,
  from: { path: `^${from}/` },
  to: { path: "^(core|api|server|web|cli|tests|scripts)/", pathNot: `^(${[from, ...allowed].join("|")})/` },
});

module.exports = {
  forbidden: [
    only("core", []),
    only("api", ["core"]),
    only("server", ["core", "api"]),
    only("web", ["core", "api"]),
    only("cli", ["core", "api", "server"]),
    {
      name: "core-is-pure",
      severity: "error",
      comment: "core computes: no framework, file system, network or database",
      from: { path: "^core/" },
      to: {
        path: "node_modules/(react|express|drizzle-orm|@electric-sql|pg|pino|helmet)|^node:",
        dependencyTypesNot: ["type-only"],
      },
    },
    {
      name: "no-circles",
      severity: "error",
      from: { path: "^(core|api|server|cli|web)/" },
      to: { circular: true, viaOnly: { dependencyTypesNot: ["type-only"] } },
    },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    tsConfig: { fileName: "tsconfig.json" },
    tsPreCompilationDeps: true,
  },
};
