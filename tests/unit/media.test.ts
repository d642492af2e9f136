import { describe, expect, it } from "vitest";
import { air } from "../../core/subjects/air/air";

// Source: ICAO Doc 7488/3, Manual of the ICAO Standard Atmosphere, tables by geopotential altitude.
describe("standard atmosphere", () => {
  it.each([
    [0, 1.225, 101325, 340.294],
    [1000, 1.11164, 89874.6, 336.434],
    [2000, 1.00649, 79495.2, 332.529],
    [5000, 0.736116, 54019.9, 320.529],
    [11000, 0.363918, 22632.1, 295.069],
  ])("at %i m", (altitude, density, pressure, sound) => {
    const a = air(altitude);
    expect(a.density).toBeCloseTo(density, 5);
    expect(a.pressure / pressure).toBeCloseTo(1, 5);
    expect(a.soundSpeed).toBeCloseTo(sound, 2);
  });
  it("has the viscosity of the standard at sea level (1.7894e-5 Pa·s, ISO 2533)", () => {
    expect(air(0).viscosity).toBeCloseTo(1.7894e-5, 9);
  });
  it("is denser when colder, in inverse ratio to the absolute temperature", () => {
    expect(air(0, -20).density / air(0, 20).density).toBeCloseTo(293.15 / 253.15, 10);
  });
});
