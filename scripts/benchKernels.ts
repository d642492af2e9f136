import { spawnSync } from "node:child_process";
import { rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { holds, losses } from "../core/subjects/authority/allocate";
import { type Driver, SIX, commands } from "../core/subjects/axes/six";
import { elementsOf } from "../core/subjects/flight/elements";
import { solveLattice } from "../core/subjects/flight/lattice";
import { demoFile } from "../tests/support/demo";

/** A wing and a tailplane with their controls, cut into 400 elements. */
function cutWings() {
  const surfaces = demoFile("tern").versions.at(-1)?.design.surfaces.slice(0, 2) ?? [];
  return elementsOf(surfaces, [0, 0], { strips: 10, chordwise: 10 });
}

/** Eight thrusters in the corners, half of them upright, as underwater craft have them: every axis is commanded. */
const EIGHT = Array.from({ length: 8 }, (_, k): Driver => {
  const [ahead, beside, above] = [k & 1 ? 1 : -1, k & 2 ? 1 : -1, k & 4 ? 1 : -1];
  return {
    at: { x: 0.2 * ahead, y: 0.15 * beside, z: 0.05 * above },
    toward: above > 0 ? { x: 0, y: 0, z: 1 } : { x: Math.SQRT1_2 * ahead, y: Math.SQRT1_2 * beside, z: 0 },
    most: 8,
    astern: 0.7,
    reversible: true,
    torque: 0.01,
    spin: ahead * beside > 0 ? 1 : -1,
  };
});

/** What is worked out again and again by itself, by name. */
export function kernels(): [string, () => void][] {
  const elements = cutWings();
  const centre = { x: 0.01, y: 0, z: 0 };
  return [
    [`lattice of ${elements.count} elements, all derivatives`, () => void solveLattice(elements, null)],
    [
      "8 thrusters, whole and each lost, all axes",
      () => {
        for (const dead of [null, 0, 1, 2, 3, 4, 5, 6, 7])
          if (Object.keys(commands(EIGHT, centre, [], dead)).length !== SIX.length)
            throw new Error("an axis is missing");
      },
    ],
    [
      "8 rotors hold a hover, whole and each lost",
      () => {
        const up = EIGHT.map((t) => ({ ...t, toward: { x: 0, y: 0, z: 1 }, reversible: false }));
        losses(up, centre, 20, holds(up, centre, 20));
      },
    ],
  ];
}

const SCRIPT = `
import sys, time
import numpy as np
a = np.fromfile(sys.argv[1]); n = int(len(a) ** 0.5); a = a.reshape(n, n)
b = np.ones((n, int(sys.argv[2])))
t = time.perf_counter(); np.linalg.solve(a, b); print(1000 * (time.perf_counter() - t))
`;

/** The same matrix solved by LAPACK out of a script, where this machine has Python and NumPy. */
export function byLapack(): string {
  const name = "the same matrix by LAPACK, from a script".padEnd(46);
  const solved = solveLattice(cutWings(), null);
  if (!solved) return `${name} no lattice`;
  const file = path.join(tmpdir(), `ultraform-lattice-${process.pid}.bin`);
  writeFileSync(file, Float64Array.from(solved.matrix.to1DArray()));
  const times = Array.from({ length: 5 }, () => {
    const start = performance.now();
    const run = spawnSync("python3", ["-c", SCRIPT, file, String(solved.names.length)], { encoding: "utf8" });
    return run.status === 0 ? { all: performance.now() - start, solving: Number(run.stdout) } : null;
  });
  rmSync(file);
  const best = times.filter((t) => t !== null).toSorted((a, b) => a.all - b.all)[0];
  return best
    ? `${name} ${best.all.toFixed(0)} ms with its start and reading, ${best.solving.toFixed(1)} ms of them solving`
    : `${name} not here: it takes Python and NumPy`;
}
