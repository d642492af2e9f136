/** Routes that a page calls which has no schemas with it: the field page is kept small. */
export const PATHS = {
  createRun: "/api/crafts/:slug/versions/:label/runs",
  addFile: "/api/files",
  fieldSheet: "/api/crafts/:slug/versions/:label/field/:habit/:state",
} as const;

/** A route with its parameters filled in. */
export const pathTo = (path: string, params: Record<string, string | number>): string =>
  path.replace(/:(\w+)/g, (_, key: string) => encodeURIComponent(String(params[key] ?? "")));
