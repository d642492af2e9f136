import { ABOARD } from "../../../core/design/hazards";
import { ABOARD_WORD } from "../../../core/wording/cautions";
import { useDesk } from "../../app/desk";
import { Cautions } from "../runs/Cautions";

/** What is aboard, and how it is built and launched, beyond what drives and packs say: cautions come from it. */
export function Aboard() {
  const { design, edit } = useDesk();
  return (
    <section aria-label="Aboard and at hand" className="mt-4">
      <h2>
        Aboard and at hand{" "}
        <span className="text-[12px] font-normal text-pencil">what can hurt, beyond drives and packs</span>
      </h2>
      <ul className="mt-1 grid grid-cols-2 gap-x-4 max-[640px]:grid-cols-1">
        {ABOARD.map((hazard) => (
          <li key={hazard}>
            <label className="flex min-h-7 items-center gap-2">
              <input
                type="checkbox"
                checked={design.aboard.includes(hazard)}
                onChange={(e) =>
                  edit(
                    (d) =>
                      void (d.aboard = e.target.checked ? [...d.aboard, hazard] : d.aboard.filter((h) => h !== hazard)),
                  )
                }
              />
              {ABOARD_WORD[hazard]}
            </label>
          </li>
        ))}
      </ul>
      <Cautions places={["workshop"]} />
    </section>
  );
}
