/**
 * How light becomes a picture. Both curves take linear light where a white card in the metered light is 1.
 * - _neutral_ keeps everything below 0.8 as it is, so that a card reads its own value, and bends what is above towards
 *   white; hue is kept.
 * - _film_ has a toe and a shoulder for each colour (Narkowicz's fit of the ACES curve, 2015), so placed that middle
 *   grey (0.18) stays middle grey.
 */
export type ToneCurve = 'neutral' | 'film';

/** Where the neutral curve begins to bend. */
export const NEUTRAL_TO = 0.8;

const film = (x: number) => (x * (2.51 * x + 0.03)) / (x * (2.43 * x + 0.59) + 0.14);
/** Where the fit itself gives 0.18, over 0.18: the positive root of a quadratic. */
export const FILM_PLACED = (() => {
  const [a, b, c] = [2.51 - 2.43 * 0.18, 0.03 - 0.59 * 0.18, -0.14 * 0.18];
  return (-b + Math.sqrt(b * b - 4 * a * c)) / (2 * a) / 0.18;
})();

/** Linear light of a picture, 0..1. */
export function develop([r, g, b]: readonly [number, number, number], curve: ToneCurve): [number, number, number] {
  if (curve === 'film')
    return [r, g, b].map((v) => Math.min(1, film(Math.max(0, v) * FILM_PLACED))) as [number, number, number];
  const peak = Math.max(r, g, b);
  if (peak <= NEUTRAL_TO) return [r, g, b];
  const room = 1 - NEUTRAL_TO;
  const bent = 1 - (room * room) / (peak - NEUTRAL_TO + room);
  // what is far brighter than white loses its colour
  const pale = 1 - 1 / (0.15 * (peak - bent) + 1);
  return [r, g, b].map((v) => (v / peak) * bent * (1 - pale) + bent * pale) as [number, number, number];
}

/** `develop` for shaders. */
export const DEVELOP_GLSL = `
vec3 developNeutral(vec3 c) {
  float peak = max(c.r, max(c.g, c.b));
  if (peak <= ${NEUTRAL_TO.toFixed(3)}) return c;
  float room = 1.0 - ${NEUTRAL_TO.toFixed(3)};
  float bent = 1.0 - room * room / (peak - ${NEUTRAL_TO.toFixed(3)} + room);
  float pale = 1.0 - 1.0 / (0.15 * (peak - bent) + 1.0);
  return mix(c / peak * bent, vec3(bent), pale);
}
vec3 developFilm(vec3 c) {
  vec3 x = max(c, 0.0) * ${FILM_PLACED.toFixed(6)};
  return min(x * (2.51 * x + 0.03) / (x * (2.43 * x + 0.59) + 0.14), 1.0);
}
`;
