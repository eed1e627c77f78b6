import type { Vec3 } from '../geometry/vec';
import { develop } from '../colour/toneCurve';
import { daylightOf, daylightWhite, whiteOf } from './daylight';
import { cardIn, harmonicsOf } from './harmonics';
import { clearSky, luminance, overcastSky, type Rgb, sunlight, towardsSun } from './sky';

const norm = (v: Vec3): Vec3 => {
  const l = Math.hypot(...v);
  return [v[0] / l, v[1] / l, v[2] / l];
};

/** A white card in a light from all sides, summed plainly: what the harmonics are to agree with. */
function cardPlainly(light: (d: Vec3) => Rgb, normal: Vec3, n = 160): number {
  let sum = 0;
  for (let i = 0; i < n; i++)
    for (let j = 0; j < 2 * n; j++) {
      const y = 1 - (2 * (i + 0.5)) / n;
      const flat = Math.sqrt(1 - y * y);
      const turn = (Math.PI * (j + 0.5)) / n;
      const d: Vec3 = [flat * Math.cos(turn), y, flat * Math.sin(turn)];
      const falls = d[0] * normal[0] + d[1] * normal[1] + d[2] * normal[2];
      if (falls > 0) sum += luminance(light(d)) * falls;
    }
  return (sum * 4) / (2 * n * n);
}

describe('sun and sky', () => {
  it('puts the sun where the compass says', () => {
    expect(towardsSun(0, 0)).toEqual([0, 0, -1]);
    const east = towardsSun(90, 30);
    expect(east[0]).toBeCloseTo(Math.cos(Math.PI / 6));
    expect(east[1]).toBeCloseTo(0.5);
  });

  it('gives a sun as bright as measured: some 100 klx at noon, a fraction and red when it sets', () => {
    // the unit is a white card under 100 klx, so a card facing the sun reads its klx / 100
    const klx = (deg: number) => (luminance(sunlight(deg)) / Math.PI) * 100;
    expect(klx(60)).toBeGreaterThan(85);
    expect(klx(60)).toBeLessThan(110);
    expect(klx(5)).toBeLessThan(45);
    expect(klx(-2)).toBe(0);
    const low = sunlight(3);
    expect(low[0] / low[2]).toBeGreaterThan(2.5);
    let last = 0;
    for (let deg = 0; deg <= 90; deg += 5) {
      expect(klx(deg)).toBeGreaterThan(last);
      last = klx(deg);
    }
  });

  // the formula is known to lie at the bright end of what is measured
  it('gives a sky of some 10 to 30 klx, blue above, bright beside the sun', () => {
    const sun = towardsSun(180, 40);
    const sky = clearSky(sun);
    const level = cardPlainly((d) => (d[1] > 0 ? sky(d) : [0, 0, 0]), [0, 1, 0]) * 100;
    expect(level).toBeGreaterThan(8);
    expect(level).toBeLessThan(30);
    const [r, , b] = sky([0, 1, 0]);
    expect(b / r).toBeGreaterThan(1.3);
    const beside = sky(norm([0.05, sun[1], sun[2]]));
    const across = sky(norm([0, sun[1], -sun[2]]));
    expect(luminance(beside)).toBeGreaterThan(4 * luminance(across));
  });

  it('dims towards dusk without a jump', () => {
    const zenith = (deg: number) => luminance(clearSky(towardsSun(200, deg))([0, 1, 0]));
    for (let deg = -9; deg < 10; deg += 0.25) {
      expect(zenith(deg + 0.25)).toBeGreaterThan(zenith(deg) * 0.999);
      expect(zenith(deg + 0.25)).toBeLessThan(zenith(deg) * 1.35);
    }
    expect(zenith(-4)).toBeLessThan(zenith(5) / 50);
  });

  it('makes an overcast sky three times as bright above as at the horizon', () => {
    const sky = overcastSky(40);
    expect(luminance(sky([0, 1, 0])) / luminance(sky([1, 0, 0]))).toBeCloseTo(3);
  });
});

describe('light on a card', () => {
  it('is what a plain sum gives, within 4%', () => {
    for (const [bearingDeg, altitudeDeg] of [
      [215, 38],
      [90, 12],
      [0, 70],
    ]) {
      const { around, harmonics } = daylightOf({ bearingDeg, altitudeDeg, strength: 1 }, 'ground');
      for (const normal of [[0, 1, 0], [1, 0, 0], [0, 0, 1], norm([1, 1, -1])] as Vec3[]) {
        const plain = cardPlainly(around, normal);
        expect(Math.abs(luminance(cardIn(harmonics, normal)) / plain - 1)).toBeLessThan(0.04);
      }
    }
  });

  it('is the colour itself in a light that is the same from all sides', () => {
    const h = harmonicsOf(() => [0.2, 0.5, 0.9]);
    for (const normal of [[0, 1, 0], norm([1, -2, 3])] as Vec3[])
      cardIn(h, normal).forEach((v, c) => expect(v).toBeCloseTo([0.2, 0.5, 0.9][c], 3));
  });

  it('comes back from the ground: more than from water', () => {
    const down = (below: 'ground' | 'water') =>
      luminance(cardIn(daylightOf({ bearingDeg: 0, altitudeDeg: 50, strength: 1 }, below).harmonics, [0, -1, 0]));
    expect(down('ground')).toBeGreaterThan(2 * down('water'));
  });

  it('is metered on a card that faces the sun', () => {
    const noon = daylightOf({ bearingDeg: 180, altitudeDeg: 60, strength: 1 }, 'ground');
    expect(luminance(noon.card)).toBeGreaterThan(0.9);
    expect(luminance(noon.card)).toBeLessThan(1.4);
    const overcast = daylightOf({ bearingDeg: 180, altitudeDeg: 60, strength: 0 }, 'ground');
    expect(luminance(overcast.card)).toBeLessThan(luminance(noon.card) / 3);
    // film for daylight finds an evening warm
    const evening = daylightOf({ bearingDeg: 180, altitudeDeg: 4, strength: 1 }, 'ground');
    expect(whiteOf(evening.card)[0] / whiteOf(evening.card)[2]).toBeGreaterThan(
      1.5 * (daylightWhite()[0] / daylightWhite()[2]),
    );
  });
});

describe('curves', () => {
  it('keep middle grey; the neutral one keeps every card', () => {
    expect(develop([0.18, 0.18, 0.18], 'film')[0]).toBeCloseTo(0.18, 6);
    for (const v of [0, 0.02, 0.18, 0.5, 0.79]) expect(develop([v, v, v], 'neutral')[0]).toBe(v);
  });

  it('rise without end and never leave 0 to 1', () => {
    for (const curve of ['neutral', 'film'] as const) {
      let last = -1;
      for (let stop = -12; stop < 8; stop += 0.1) {
        const v = develop([2 ** stop, 2 ** stop, 2 ** stop], curve)[0];
        expect(v).toBeGreaterThanOrEqual(last);
        expect(v).toBeLessThanOrEqual(1);
        last = v;
      }
    }
  });

  it('let what is far brighter than white go pale', () => {
    const [r, g] = develop([40, 2, 1], 'neutral');
    expect(g / r).toBeGreaterThan(0.5);
  });
});
