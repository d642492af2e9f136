import type { Unit } from "../../../../core/design/schema";
import { type Propulsor, propulsorSchema } from "../../../../core/subjects/propulsion/kinds/declares";
import { kindOf } from "../../../../core/subjects/propulsion/kinds/models";
import { Group } from "../../../fields/FormParts";
import { TaggedForm } from "../../../fields/TaggedForm";

/** The figures of what a drive turns. */
export function PropulsorForm({
  propulsor,
  drive,
}: {
  propulsor: Propulsor;
  drive: (mutate: (u: Unit) => void) => void;
}) {
  const { word, range } = kindOf(propulsor);
  return (
    <Group title={word.charAt(0).toUpperCase() + word.slice(1)}>
      <TaggedForm
        kinds={propulsorSchema}
        thing={propulsor}
        put={(key, value) =>
          drive((u) => {
            if (u.propulsor) Object.assign(u.propulsor, { [key]: value });
          })
        }
      />
      <small className="mt-1 block text-[11px] text-pencil">{range}</small>
    </Group>
  );
}
