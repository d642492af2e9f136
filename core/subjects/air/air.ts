/** Constants of the ICAO standard atmosphere. Source: ICAO Doc 7488/3 (1993), ISO 2533:1975. */
const G0 = 9.80665;
const R_AIR = 287.05287;
const T0 = 288.15;
const P0 = 101325;
const LAPSE = -0.0065;
const GAMMA = 1.4;

/** Standard gravity, m/s² (ISO 80000-3). */
export const GRAVITY = G0;

export interface Air {
  /** kg/m³ */
  density: number;
  /** Pa */
  pressure: number;
  /** K */
  temperature: number;
  /** m/s */
  soundSpeed: number;
  /** dynamic viscosity, Pa·s */
  viscosity: number;
}

/**
 * Dry air at a pressure altitude. Pressure follows the standard atmosphere; temperature is the standard one unless given.
 *
 * @param altitude geopotential height, m, −500 to 11 000
 * @param temperature °C; standard when left out
 * Viscosity by Sutherland's law as ISO 2533. Humidity is left out: at 20 °C and 100 % it lowers density by about 0.9 %.
 */
export function air(altitude: number, temperature?: number): Air {
  const standard = T0 + LAPSE * altitude;
  const pressure = P0 * (standard / T0) ** (-G0 / (LAPSE * R_AIR));
  const t = temperature === undefined ? standard : temperature + 273.15;
  return {
    pressure,
    temperature: t,
    density: pressure / (R_AIR * t),
    soundSpeed: Math.sqrt(GAMMA * R_AIR * t),
    viscosity: (1.458e-6 * t ** 1.5) / (t + 110.4),
  };
}
