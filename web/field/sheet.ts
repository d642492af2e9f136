import { del, get, set } from "idb-keyval";
import { useEffect, useState } from "react";
import { PATHS, pathTo } from "../../api/paths";
import { type FieldSheet, SHEET_SHAPE } from "../../core/runs/sheetShape";
import { onSent } from "../app/outbox";
import { usePreferences } from "../app/preferences";
import { ApiError, request } from "../app/request";

const readable = (kept: unknown): kept is FieldSheet =>
  typeof kept === "object" && kept !== null && (kept as Partial<FieldSheet>).shape === SHEET_SHAPE;

/**
 * The sheet of a version as the server has it, or as it was when it last answered: at the site there may be none.
 * Asked for again when a run reached the log, and when the page comes back into sight.
 */
export function useSheet(
  slug: string,
  label: string,
  state: string,
): { sheet: FieldSheet | null; error: unknown; old: boolean } {
  const { habit } = usePreferences();
  const [sheet, setSheet] = useState<FieldSheet | null>(null);
  const [error, setError] = useState<unknown>(null);
  const [old, setOld] = useState(false);
  useEffect(() => {
    const stored = `sheet/${slug}/${label}/${habit}/${state}`;
    let over = false;
    let answered = false;
    const ask = async () => {
      try {
        const answer = await request("get", pathTo(PATHS.fieldSheet, { slug, label, habit, state }));
        if (!readable(answer)) throw new Error("This page is of another release than the server: reload it.");
        await set(stored, answer);
        if (over) return;
        answered = true;
        setSheet(answer);
        setOld(false);
        setError(null);
      } catch (reason) {
        if (over) return;
        setError(reason);
        // The server knows of no such version: what was kept of it is no help any more.
        if (reason instanceof ApiError && reason.problem.status === 404) {
          answered = true;
          setSheet(null);
          await del(stored);
        } else setOld(true);
      }
    };
    void get<unknown>(stored).then((kept) => {
      if (!over && !answered && readable(kept)) setSheet(kept);
    });
    void ask();
    const back = () => document.visibilityState === "visible" && void ask();
    document.addEventListener("visibilitychange", back);
    window.addEventListener("online", ask);
    const sent = onSent(() => void ask());
    return () => {
      over = true;
      document.removeEventListener("visibilitychange", back);
      window.removeEventListener("online", ask);
      sent();
    };
  }, [slug, label, habit, state]);
  return { sheet, error, old };
}
