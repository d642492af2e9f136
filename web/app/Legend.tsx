import { Cairn } from "../glyphs/Cairn";
import { usePreferences } from "./preferences";

/** How well known, and what pencil and ink mean; units and theme. */
export function Legend() {
  const { habit, theme, set } = usePreferences();
  return (
    <div className="rail-legend text-[11px]">
      <p className="mb-1 font-semibold text-ink">How well known</p>
      {(["proven", "measured", "calculated", "datasheet", "guess"] as const).map((e) => (
        <p key={e} className="flex items-center gap-2 leading-[18px]">
          <Cairn level={e} /> {e === "proven" ? "proven in a run" : e}
        </p>
      ))}
      <p className="mt-1 flex items-center gap-2 leading-[18px]">
        <span className="w-5 border-t border-dashed border-pencil" /> predicted
      </p>
      <p className="flex items-center gap-2 leading-[18px]">
        <span className="w-5 border-t-2 border-ink" /> measured
      </p>
      <p className="flex items-center gap-2 leading-[18px]">
        <span className="w-5 font-semibold text-care">?</span> not wholly covered
      </p>
      <p className="mt-2 flex flex-col items-start gap-1">
        <button
          type="button"
          className="link"
          onClick={() => set({ habit: habit === "metric" ? "imperial" : "metric" })}
        >
          {habit === "metric" ? "show oz, in" : "show g, mm"}
        </button>
        <button type="button" className="link" onClick={() => set({ theme: theme === "paper" ? "night" : "paper" })}>
          {theme === "paper" ? "dark" : "light"}
        </button>
      </p>
    </div>
  );
}
