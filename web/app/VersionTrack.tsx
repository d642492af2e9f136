import { useEffect, useMemo, useRef } from "react";
import type { CraftFile, Version } from "../../core/design/craftFile";
import { placeTree } from "../../core/lineage/tree";
import { Post } from "../glyphs/Post";
import { useCalmDesk } from "./desk";

/** Highest rung passed, and the rung on which it failed last; in one state where one is named. */
export function reach(
  file: Pick<CraftFile, "runs">,
  label: string,
  state?: string,
): { passed: number; failed: number | null } {
  const own = file.runs.filter((r) => r.version === label && (state === undefined || r.state === state));
  const failed = own.filter((r) => r.outcome === "failed").map((r) => r.stage);
  return {
    passed: Math.max(0, ...own.filter((r) => r.outcome === "passed").map((r) => r.stage)),
    failed: failed.length > 0 ? Math.max(...failed) : null,
  };
}

/** Versions in order along one line, branches raised; the one in view is marked. */
export function VersionTrack() {
  const { file, version, state, go } = useCalmDesk("frame");
  const track = useRef<HTMLElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is the change of version that matters
  useEffect(() => {
    track.current?.querySelector("[aria-current]")?.scrollIntoView({ inline: "center", block: "nearest" });
  }, [version.label]);
  const placed = useMemo(() => placeTree(file.versions), [file.versions]);
  const branch = (v: Version) => (placed.find((p) => p.label === v.label)?.lane ?? 0) > 0;
  return (
    <nav ref={track} aria-label="Versions" className="flex h-full min-w-0 flex-1 items-end overflow-x-auto">
      {file.versions.map((v) => {
        const here = v.label === version.label;
        const caption = v.finding || (v.frozenAt === null ? "open draft" : v.question);
        return (
          <button
            type="button"
            key={v.label}
            aria-current={here ? "true" : undefined}
            onClick={() => go({ label: v.label })}
            title={v.question}
            className={
              "relative flex h-full w-[122px] shrink-0 items-end gap-1 px-1 pb-[10px] text-left " +
              `${here ? "border-b-[3px] border-accent bg-sheet pb-[7px]" : ""}`
            }
          >
            <span
              className={
                "absolute bottom-[13px] left-0 right-0 border-t-2 " +
                `${v.frozenAt === null ? "border-dashed border-pencil" : "border-ink"} ` +
                `${here ? "bottom-[10px]" : ""}`
              }
              aria-hidden="true"
            />
            <span className={`relative flex items-end gap-1 ${branch(v) ? "mb-3" : ""}`}>
              <Post
                {...reach(file, v.label, v.design.states.length > 1 ? state.id : undefined)}
                draft={v.frozenAt === null}
              />
              <span className={`flex min-w-0 flex-col ${branch(v) ? "mb-1" : "mb-3"}`}>
                <b className={`text-[13px] leading-4 ${here ? "text-accent" : "text-ink"}`}>{v.label}</b>
                <span className="line-clamp-2 max-w-[92px] bg-inherit text-[11px] leading-[13px] text-pencil">
                  {caption}
                </span>
              </span>
            </span>
          </button>
        );
      })}
    </nav>
  );
}
