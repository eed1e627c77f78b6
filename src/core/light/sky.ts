import type { Vec3 } from '../geometry/vec';

/** Linear sRGB. */
export type Rgb = [number, number, number];

/**
 * Radiance is told in a unit of ours: what a white card sends back that lies under 100 klx. A white card laid level at
 * noon of a clear day is then about 1, and whoever draws in half precision has room on both sides.
 */
const KCD_PER_UNIT = 100 / Math.PI;
/** A clear day with a little haze (Preetham's turbidity). */
const TURBIDITY = 2.8;
/** Below it the formula does not hold; the sky keeps its face and fades. */
const LEAST_ALTITUDE_DEG = 3;
/** Light of the sun above the air, klx (Darula, Kittler, Gueymard 2005). */
const SUN_KLX = 133.8;
/** Wavelengths that stand for red, green and blue, µm. */
const WAVES: Rgb = [0.61, 0.55, 0.465];

/** The formula's colours are stronger than a camera's, share of grey mixed in. */
const PALER = 0.3;

/** How light a colour is to the eye. */
export const luminance = ([r, g, b]: Rgb): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

const RADIANS = Math.PI / 180;

/**
 * Where the sun stands, of length 1; x is right, y up, −z where the bearing is 0.
 * @param bearingDeg clockwise from −z, seen from above
 */
export function towardsSun(bearingDeg: number, altitudeDeg: number): Vec3 {
  const [b, a] = [bearingDeg * RADIANS, altitudeDeg * RADIANS];
  return [Math.sin(b) * Math.cos(a), Math.sin(a), -Math.cos(b) * Math.cos(a)];
}

/**
 * Light of the sun on a card that faces it, in units of radiance × π, by colour: what is left of it after the air
 * (Rayleigh's and Ångström's scattering as in Preetham, Shirley, Smits 1999, appendix; mass of air by Kasten, Young
 * 1989). None when it is down.
 */
export function sunlight(altitudeDeg: number): Rgb {
  if (altitudeDeg <= -0.3) return [0, 0, 0];
  const a = Math.max(0, altitudeDeg);
  const air = 1 / (Math.sin(a * RADIANS) + 0.50572 * (a + 6.07995) ** -1.6364);
  const haze = 0.0460836582205 * TURBIDITY - 0.04586025928522;
  const whole = SUN_KLX / KCD_PER_UNIT;
  // it sets within its own width
  const risen = Math.min(1, Math.max(0, (altitudeDeg + 0.3) / 0.6));
  return WAVES.map((w) => whole * risen * Math.exp(-air * (0.008735 * w ** -4.08 + haze * w ** -1.3))) as Rgb;
}

/** A sky: what comes from each direction above the horizon. */
export type Sky = (direction: Readonly<Vec3>) => Rgb;

type Five = readonly [number, number, number, number, number];
/** Luminance and chromaticity by turbidity: two numbers for each of Perez's five. */
const PEREZ = {
  Y: [
    [0.1787, -1.463],
    [-0.3554, 0.4275],
    [-0.0227, 5.3251],
    [0.1206, -2.5771],
    [-0.067, 0.3703],
  ],
  x: [
    [-0.0193, -0.2592],
    [-0.0665, 0.0008],
    [-0.0004, 0.2125],
    [-0.0641, -0.8989],
    [-0.0033, 0.0452],
  ],
  y: [
    [-0.0167, -0.2608],
    [-0.095, 0.0092],
    [-0.0079, 0.2102],
    [-0.0441, -1.6537],
    [-0.0109, 0.0529],
  ],
} as const;
/** Chromaticity of the zenith: rows by falling powers of turbidity, columns by falling powers of the sun's angle. */
const ZENITH = {
  x: [
    [0.00166, -0.00375, 0.00209, 0],
    [-0.02903, 0.06377, -0.03202, 0.00394],
    [0.11693, -0.21196, 0.06052, 0.25886],
  ],
  y: [
    [0.00275, -0.0061, 0.00317, 0],
    [-0.04214, 0.0897, -0.04153, 0.00516],
    [0.15346, -0.26756, 0.0667, 0.26688],
  ],
} as const;

const five = (rows: readonly (readonly [number, number])[]): Five =>
  rows.map(([k, c]) => k * TURBIDITY + c) as unknown as Five;

/** Perez, Seals, Michalsky 1993. */
const perez = (k: Five, cosZenith: number, toSun: number, cos = Math.cos(toSun) ** 2): number =>
  (1 + k[0] * Math.exp(k[1] / cosZenith)) * (1 + k[2] * Math.exp(k[3] * toSun) + k[4] * cos);

/**
 * A clear sky (Preetham, Shirley, Smits 1999). Towards dusk, where the formula ends, it dims as measured skies do and
 * turns bluer.
 */
export function clearSky(sun: Readonly<Vec3>): Sky {
  const altitudeDeg = Math.asin(Math.min(1, Math.max(-1, sun[1]))) / RADIANS;
  const held = Math.max(altitudeDeg, LEAST_ALTITUDE_DEG) * RADIANS;
  const flat = Math.hypot(sun[0], sun[2]) || 1;
  const at: Vec3 = [(sun[0] / flat) * Math.cos(held), Math.sin(held), (sun[2] / flat) * Math.cos(held)];
  const theta = Math.PI / 2 - held;
  const chi = (4 / 9 - TURBIDITY / 120) * (Math.PI - 2 * theta);
  const zenithY = (4.0453 * TURBIDITY - 4.971) * Math.tan(chi) - 0.2155 * TURBIDITY + 2.4192;
  const powers = [theta ** 3, theta ** 2, theta, 1];
  const chromaticity = (rows: readonly (readonly number[])[]) =>
    rows.reduce((sum, row, n) => sum + TURBIDITY ** (2 - n) * row.reduce((s, k, i) => s + k * powers[i], 0), 0);
  const zenith = [zenithY, chromaticity(ZENITH.x), chromaticity(ZENITH.y)];
  const curves = [five(PEREZ.Y), five(PEREZ.x), five(PEREZ.y)];
  const whole = curves.map((c, n) => zenith[n] / perez(c, 1, theta));
  const dim = duskShare(altitudeDeg) / KCD_PER_UNIT;
  const blue = Math.min(1, Math.max(0, (LEAST_ALTITUDE_DEG - altitudeDeg) / 8));
  return ([x, y, z]) => {
    const cosZenith = Math.max(0.01, y);
    const toSun = Math.acos(Math.min(1, Math.max(-1, x * at[0] + Math.max(0, y) * at[1] + z * at[2])));
    const cos = Math.cos(toSun) ** 2;
    const Y = whole[0] * perez(curves[0], cosZenith, toSun, cos);
    const cx = whole[1] * perez(curves[1], cosZenith, toSun, cos);
    const [r, g, b] = linearOf(Math.max(0, Y) * dim, cx, whole[2] * perez(curves[2], cosZenith, toSun, cos));
    const grey = PALER * (0.2126 * r + 0.7152 * g + 0.0722 * b);
    const pale = (v: number) => v * (1 - PALER) + grey;
    return [pale(r) * (1 - 0.35 * blue), pale(g) * (1 - 0.12 * blue), pale(b) * (1 + 0.25 * blue)];
  };
}

/** How much is left of a low sun's sky: about a fifth at the horizon, a hundredth when it is 4° below. */
function duskShare(altitudeDeg: number): number {
  const low = Math.max(0, LEAST_ALTITUDE_DEG - altitudeDeg);
  return 10 ** (-0.2 * Math.min(low, LEAST_ALTITUDE_DEG) - 0.35 * Math.max(0, low - LEAST_ALTITUDE_DEG));
}

/** An overcast sky, three times as bright at the zenith as at the horizon (CIE standard overcast sky). */
export function overcastSky(altitudeDeg: number): Sky {
  const high = Math.max(altitudeDeg, LEAST_ALTITUDE_DEG) * RADIANS;
  const zenith = ((9 / (7 * Math.PI)) * (0.3 + 21 * Math.sin(high)) * duskShare(altitudeDeg)) / KCD_PER_UNIT;
  return ([, y]) => {
    const l = (zenith * (1 + 2 * Math.max(0, y))) / 3;
    return [l * 0.97, l, l * 1.05];
  };
}

/** Linear sRGB of a luminance and a chromaticity (IEC 61966-2-1). */
function linearOf(Y: number, x: number, y: number): Rgb {
  const X = (x / y) * Y;
  const Z = ((1 - x - y) / y) * Y;
  return [
    Math.max(0, 3.2406 * X - 1.5372 * Y - 0.4986 * Z),
    Math.max(0, -0.9689 * X + 1.8758 * Y + 0.0415 * Z),
    Math.max(0, 0.0557 * X - 0.204 * Y + 1.057 * Z),
  ];
}
