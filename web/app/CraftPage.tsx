import { useParams } from "react-router";
import { PAGES } from "../../core/design/metrics";
import { StabilityPlanned } from "../stations/Planned";
import { BenchStation } from "../stations/bench/Bench";
import { BriefStation } from "../stations/brief/Brief";
import { FaultsStation } from "../stations/faults/Faults";
import { LayoutStation } from "../stations/layout/Layout";
import { PowerStation } from "../stations/power/Power";
import { RunsStation } from "../stations/runs/Runs";
import { VersionsStation } from "../stations/versions/Versions";
import { BrokenLines } from "./BrokenLines";
import { Frame } from "./Frame";
import { Missing } from "./Missing";
import { sayError } from "./client";
import { DeskProvider, useCraft } from "./desk";

const VIEWS: Record<(typeof PAGES)[number], () => React.ReactNode> = {
  brief: BriefStation,
  layout: LayoutStation,
  power: PowerStation,
  stability: StabilityPlanned,
  bench: BenchStation,
  runs: RunsStation,
  faults: FaultsStation,
  versions: VersionsStation,
};

/** One craft at one version and station, as the address says. */
export function CraftPage() {
  const { slug = "", label, station = "brief" } = useParams();
  const { data, error, isPending } = useCraft(slug);
  if (isPending) return <main className="p-8">Opening {slug} …</main>;
  // What was read before stays in view when the server does not answer for a while.
  if (!data) return <Missing what="craft" detail={sayError(error)} />;
  const version = label === undefined ? data.file.versions.at(-1) : data.file.versions.find((v) => v.label === label);
  if (data.file.versions.length === 0) return <BrokenLines record={data} />;
  if (!version) return <Missing what="version" detail={`${data.file.craft.name} has no version ${label}.`} />;
  const known = PAGES.find((s) => s === station);
  if (!known) return <Missing what="station" />;
  const View = VIEWS[known];
  return (
    <DeskProvider key={`${slug}/${version.label}/${version.frozenAt ?? ""}`} record={data} version={version} station={known}>
      <Frame station={known}>
        <BrokenLines record={data} />
        <View />
      </Frame>
    </DeskProvider>
  );
}
