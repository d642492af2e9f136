/** A station that is not built yet: says what it will hold. */
function Planned({ name, holds, now }: { name: string; holds: string[]; now: string }) {
  return (
    <section className="max-w-xl p-6">
      <h2 className="text-[18px]">{name}: planned</h2>
      <p className="mt-2">This station is not built yet. It will hold:</p>
      <ul className="mt-2 list-[square] pl-5">
        {holds.map((h) => (
          <li key={h}>{h}</li>
        ))}
      </ul>
      <p className="mt-3 text-pencil">{now}</p>
    </section>
  );
}

export const StabilityPlanned = () => (
  <Planned
    name="Stability"
    holds={[
      "where the CG must be for this craft: neutral point, thrust centre, metacentre or cushion centre",
      "righting arms, list and loll of hulls",
      "control along and about each axis, and what is lost when a unit dies",
    ]}
    now="Until then the window for the CG is entered by hand in Brief."
  />
);
