import { verdict } from "../../subject";
import { plain } from "../../wording/format";
import { windage } from "./node";

const blown = verdict<{ force: number }>({
  find(see) {
    const result = see.result(windage);
    return result && result.force > 1
      ? [{ page: "layout", severity: "care", about: "side", params: { force: result.force }, figure: null }]
      : [];
  },
  says: (p, habit) => `The wind pushes it aside with ${plain(p.force, "force", habit)}`,
});
export const verdicts = { "blown-aside": blown };
