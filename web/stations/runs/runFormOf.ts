import type { UseFieldArrayReturn, UseFormReturn } from "react-hook-form";
import type { z } from "zod";
import type { newRunSchema } from "../../../api/contracts";

/** The form of a run, as its parts are handed it. */
export type RunFormOf = UseFormReturn<z.input<typeof newRunSchema>, unknown, z.output<typeof newRunSchema>>;
/** The rows of what was measured. */
export type Rows = UseFieldArrayReturn<z.input<typeof newRunSchema>, "measured">;
