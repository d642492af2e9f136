import type { FormEvent } from "react";

/**
 * A form's submit that goes to the first field whose number was not read, instead of taking the value that stood in
 * it before.
 *
 * @param submit what to do when no field is in error
 */
export const guarded =
  (submit: (event: FormEvent<HTMLFormElement>) => unknown) =>
  (event: FormEvent<HTMLFormElement>): void => {
    const wrong = event.currentTarget.querySelector<HTMLElement>("[data-unread]");
    if (wrong) {
      event.preventDefault();
      wrong.scrollIntoView({ block: "center" });
      wrong.focus();
      return;
    }
    void submit(event);
  };
