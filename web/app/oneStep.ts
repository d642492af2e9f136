let step: string | undefined;

/** The name of the step that changes belong to at the moment; undefined: each stands by itself. */
export const stepNow = (): string | undefined => step;

/** Whatever is changed while this runs is one step to be undone. */
export async function asOneStep(run: () => Promise<void>): Promise<void> {
  step = `step-${Date.now()}`;
  try {
    await run();
  } finally {
    step = undefined;
  }
}
