import { type ComponentType, Suspense, lazy, useEffect } from "react";
import { useParams } from "react-router";
import { PAGES, type Page } from "../../core/design/metrics";
import { BrokenLines } from "./BrokenLines";
import { Frame } from "./Frame";
import { Opening } from "./Opening";
import { Missing } from "./Missing";
import { sayError } from "./client";
import { DeskProvider, useCraft } from "./desk";

/** Where each page of the workshop comes from: a file of its own, fetched when it is first opened. */
const SOURCES: Record<Page, () => Promise<{ default: ComponentType }>> = {
  brief: () => import("../stations/brief/Brief").then((m) => ({ default: m.BriefStation })),
  layout: () => import("../stations/layout/Layout").then((m) => ({ default: m.LayoutStation })),
  power: () => import("../stations/power/Power").then((m) => ({ default: m.PowerStation })),
  stability: () => import("../stations/stability/Stability").then((m) => ({ default: m.StabilityStation })),
  bench: () => import("../stations/bench/Bench").then((m) => ({ default: m.BenchStation })),
  runs: () => import("../stations/runs/Runs").then((m) => ({ default: m.RunsStation })),
  faults: () => import("../stations/faults/Faults").then((m) => ({ default: m.FaultsStation })),
  versions: () => import("../stations/versions/Versions").then((m) => ({ default: m.VersionsStation })),
};
const VIEWS = Object.fromEntries(PAGES.map((p) => [p, lazy(SOURCES[p])])) as Record<Page, ReturnType<typeof lazy>>;

/** Fetches the other pages while nothing else is to do, so that they open at once, and without the server too. */
function useAllPages(): void {
  useEffect(() => {
    const timer = setTimeout(() => {
      for (const p of PAGES) void SOURCES[p]().catch(() => {});
    }, 2500);
    return () => clearTimeout(timer);
  }, []);
}

/** One craft at one version and station, as the address says. */
export function CraftPage() {
  const { slug = "", label, station = "brief" } = useParams();
  useAllPages();
  const { data, error, isPending } = useCraft(slug);
  if (isPending)
    return (
      <main>
        <Opening what={slug} />
      </main>
    );
  // What was read before stays in view when the server does not answer for a while.
  if (!data) return <Missing what="craft" detail={sayError(error)} />;
  const version = label === undefined ? data.file.versions.at(-1) : data.file.versions.find((v) => v.label === label);
  if (data.file.versions.length === 0) return <BrokenLines record={data} />;
  if (!version) return <Missing what="version" detail={`${data.file.craft.name} has no version ${label}.`} />;
  const known = PAGES.find((s) => s === station);
  if (!known) return <Missing what="station" />;
  const View = VIEWS[known];
  return (
    <DeskProvider
      key={`${slug}/${version.label}/${version.frozenAt ?? ""}`}
      record={data}
      version={version}
      station={known}
    >
      <title>{`${data.file.craft.name} ${version.label}, ${known} · Ultraform`}</title>
      <Frame station={known}>
        <BrokenLines record={data} />
        <Suspense fallback={<Opening />}>
          <View />
        </Suspense>
      </Frame>
    </DeskProvider>
  );
}
