import { oak } from '../testing/surfaces';
import type { Cells } from '../layout/cells';
import { RECTANGLE } from '../layout/modules';
import { AppearanceRows, blankAppearance, showOnWhole, showPiece, showPieces, type Varied } from './appearance';
import type { Dealer } from './deal';
import { openPrints, turnsOfPrints } from './prints';
import { plainVariation, type VariationSpec } from './schema';
import { openTones } from './tone';

const small = { ...oak(), widthMm: 2000, heightMm: 1000 };

/** Pieces 200 × 100 of one material or two; every piece has seed 100 · course + index and print 0. */
function varied(rest: Partial<VariationSpec> = {}, materials = [small]): Varied {
  const variation = { ...plainVariation(), ...rest };
  const dealer = {
    deal(rows: AppearanceRows) {
      for (let k = 0; k < rows.count; k++) {
        rows.seed[k] = Math.imul(rows.course[k] * 100 + rows.index[k] + 1, 2654435761) >>> 0;
        rows.material[k] = materials.length > 1 ? rows.course[k] % 2 : 0;
        rows.print[k] = 0;
      }
    },
  } as unknown as Dealer;
  return {
    variation,
    dealer,
    upright: false,
    materials: materials.map((material) => ({
      material,
      widthMm: material.widthMm,
      heightMm: material.heightMm,
      prints: openPrints(material, material, variation, [200, 100], 6),
      turns: turnsOfPrints(material, variation),
      tones: openTones(variation, material.colour),
    })),
  };
}
const show = (v: Varied, course = 1, index = 2, x = 50, y = 70, axis: [number, number] = [1, 0]) =>
  showPiece(v, course, index, x, y, axis, blankAppearance());

describe('where the picture lies on a piece', () => {
  test('true to size: a millimetre of the piece is a millimetre of the picture', () => {
    const a = show(varied());
    expect([a.uAlong * 2000, a.uAcross, a.vAlong, a.vAcross * 1000]).toEqual([1, -0, 0, 1]);
    expect(a.u).toBeGreaterThanOrEqual(0);
    expect(a.u).toBeLessThan(1.2);
  });

  test('off, it lies as on the whole, whatever else is set', () => {
    const turned: [number, number] = [0, 1];
    const a = show(varied({ on: false, turnStepDeg: 90, tiltDeg: 5 }), 1, 2, 500, 250, turned);
    const whole = showOnWhole(small, [500, 250], turned, blankAppearance());
    expect([a.u, a.v, a.uAlong, a.uAcross, a.vAlong, a.vAcross]).toEqual([0.25, 0.25, 0, -1 / 2000, 1 / 1000, 0]);
    expect([whole.u, whole.v, whole.uAlong, whole.vAcross]).toEqual([a.u, a.v, a.uAlong, a.vAcross]);
    expect([a.print, a.leanAlong, a.leanAcross]).toEqual([0, 0, 0]);
    // undoing the brightening of the picture
    const tones = openTones(plainVariation(), small.colour);
    expect([...a.gain]).toEqual([1, 1, 1].map((v) => v / tones.most));
  });

  test('larger or smaller within the range asked for', () => {
    const sizes = Array.from({ length: 200 }, (_, n) => {
      const a = show(varied({ sizePercent: { from: 80, to: 125 } }), 1, n);
      return 1 / (a.uAlong * 2000);
    });
    expect(Math.min(...sizes)).toBeGreaterThanOrEqual(0.8);
    expect(Math.max(...sizes)).toBeLessThanOrEqual(1.25);
    expect(Math.min(...sizes)).toBeLessThan(0.83);
    expect(Math.max(...sizes)).toBeGreaterThan(1.22);
    const all = show(varied({ sizePercent: { from: 200, to: 200 } }));
    expect(all.uAlong * 2000).toBeCloseTo(0.5, 12);
  });

  test('turned by the steps asked for, never stretched', () => {
    const angles = new Set<number>();
    for (let n = 0; n < 100; n++) {
      const a = show(varied({ turnStepDeg: 90 }), 1, n);
      const [along, up] = [a.uAlong * 2000, a.vAlong * 1000];
      expect(Math.hypot(along, up)).toBeCloseTo(1, 12);
      expect(a.uAlong * 2000 * a.vAcross * 1000 - a.uAcross * 2000 * a.vAlong * 1000).toBeCloseTo(1, 12);
      angles.add(Math.round((Math.atan2(up, along) * 180) / Math.PI));
    }
    expect([...angles].sort((x, y) => x - y)).toEqual([-90, 0, 90, 180]);
  });

  test('flipped along, across, both or neither: about half of each', () => {
    const seen = { along: 0, across: 0, both: 0 };
    for (let n = 0; n < 400; n++) {
      const a = show(varied({ flipAlong: true, flipAcross: true }), 1, n);
      const [along, across] = [a.uAlong < 0, a.vAcross < 0];
      if (along) seen.along++;
      if (across) seen.across++;
      if (along && across) seen.both++;
    }
    for (const [share, of] of [
      [seen.along, 200],
      [seen.across, 200],
      [seen.both, 100],
    ])
      expect(Math.abs(share - of)).toBeLessThan(50);
    for (let n = 0; n < 50; n++) {
      expect(show(varied({ flipAlong: true }), 1, n).vAcross).toBeGreaterThan(0);
      expect(show(varied({ flipAcross: true }), 1, n).uAlong).toBeGreaterThan(0);
    }
  });
});

test('faces lean to all sides, never beyond the limit', () => {
  const limit = (3 * Math.PI) / 180;
  const leans = Array.from({ length: 600 }, (_, n) => show(varied({ tiltDeg: 3 }), 1, n));
  const most = Math.max(...leans.map((a) => Math.hypot(a.leanAlong, a.leanAcross)));
  expect(most).toBeLessThanOrEqual(limit + 1e-12);
  expect(most).toBeGreaterThan(0.9 * limit);
  for (const side of [1, -1]) {
    expect(leans.filter((a) => a.leanAlong * side > limit / 4).length).toBeGreaterThan(100);
    expect(leans.filter((a) => a.leanAcross * side > limit / 4).length).toBeGreaterThan(60);
  }
  expect(show(varied({ tiltDeg: 0 })).leanAlong).toBe(0);
});

test('a grain that runs up the picture runs along the piece', () => {
  const grain = { ...small, grain: 'y' as const };
  for (const rest of [{}, { flipAlong: true }]) {
    const a = show(varied(rest, [grain]), 1, 2);
    expect(Math.abs(a.uAlong * 2000)).toBeLessThan(1e-12);
    expect(Math.abs(a.vAlong * 1000)).toBeCloseTo(1, 12);
    expect(a.uAcross * 2000).toBeCloseTo(-1, 12);
  }
  const larger = show(varied({ sizePercent: { from: 200, to: 200 } }, [grain]), 1, 2);
  expect(larger.vAlong * 1000).toBeCloseTo(0.5, 12);
  expect(larger.uAcross * 2000).toBeCloseTo(-0.5, 12);
});

test('a piece too large for its leaf shows the picture as much larger', () => {
  const leafy = { ...small, seamless: false, leaves: { columns: 20, rows: 1, insetMm: 0 } };
  for (const rest of [{}, { flipAcross: true }]) {
    const a = show(varied(rest, [leafy]), 1, 2);
    // 200 long in a leaf of 100
    expect(a.uAlong * 2000).toBeCloseTo(0.5, 12);
    expect(Math.abs(a.vAcross * 1000)).toBeCloseTo(0.5, 12);
  }
});

describe('many at once', () => {
  const cells = (count: number): Cells =>
    ({
      count,
      course: Int32Array.from({ length: count }, (_, n) => n % 3),
      index: Int32Array.from({ length: count }, (_, n) => n),
      x: Float64Array.from({ length: count }, (_, n) => n * 10),
      y: Float64Array.from({ length: count }, (_, n) => n * 5),
      halfLength: new Float64Array(count).fill(100),
      halfWidth: new Float64Array(count).fill(50),
      axis: Uint8Array.from({ length: count }, (_, n) => n % 2),
      module: new Uint16Array(count),
    }) as unknown as Cells;
  const axes = [
    [1, 0],
    [0, 1],
  ] as const;
  const second = { ...oak(), id: 'lime', name: 'Lime', widthMm: 500, heightMm: 400 };
  const settings: Partial<VariationSpec>[] = [
    {},
    { on: false },
    { turnStepDeg: 90, flipAlong: true, sizePercent: { from: 90, to: 110 }, tiltDeg: 2 },
  ];

  test.each(settings)('each looks as it does alone: %j', (setting) => {
    for (const materials of [[small], [small, second]]) {
      const v = varied(setting, materials);
      const rows = new AppearanceRows(64);
      const c = cells(40);
      // every third of them
      const which = Uint16Array.from({ length: 14 }, (_, n) => n * 3);
      rows.ask(c, which, 13, { axes, modules: [RECTANGLE] });
      showPieces(v, rows);
      for (let k = 0; k < 13; k++) {
        const n = which[k];
        const alone = show(v, c.course[n], c.index[n], c.x[n], c.y[n], [...axes[c.axis[n]]]);
        for (const key of ['u', 'v', 'uAlong', 'uAcross', 'vAlong', 'vAcross', 'leanAlong', 'leanAcross'] as const)
          expect(rows[key][k]).toBe(alone[key]);
        expect([rows.red[k], rows.green[k], rows.blue[k]]).toEqual([...alone.gain]);
        expect([rows.material[k], rows.seed[k], rows.print[k]]).toEqual([alone.material, alone.seed, alone.print]);
      }
    }
  });

  test('those of one material are picked out with all that draws them', () => {
    const v = varied({}, [small, second]);
    const rows = new AppearanceRows(64);
    rows.ask(
      cells(40),
      Uint16Array.from({ length: 40 }, (_, n) => n),
      40,
      { axes, modules: [RECTANGLE] },
    );
    showPieces(v, rows);
    const out = new AppearanceRows(64);
    const limes = Array.from({ length: 40 }, (_, k) => k).filter((k) => rows.material[k] === 1);
    expect(rows.only(1, 0, out).count).toBe(limes.length);
    limes.forEach((k, n) => {
      for (const key of ['x', 'y', 'a', 'b', 'u', 'v', 'uAlong', 'vAcross', 'red', 'blue'] as const)
        expect(out[key][n]).toBe(rows[key][k]);
    });
    expect(out.lean).toBe(false);
  });

  test('a single axis serves all', () => {
    const rows = new AppearanceRows(8);
    rows.ask(cells(8), Uint16Array.from([1, 2, 5]), 3, {
      axes: [[0.6, 0.8]],
      modules: [RECTANGLE],
    });
    expect([...rows.ax.subarray(0, 3), ...rows.ay.subarray(0, 3)]).toEqual([0.6, 0.6, 0.6, 0.8, 0.8, 0.8]);
    expect([...rows.index.subarray(0, 3)]).toEqual([1, 2, 5]);
    expect([...rows.x.subarray(0, 3), ...rows.y.subarray(0, 3)]).toEqual([10, 20, 50, 5, 10, 25]);
    expect([rows.a[0], rows.b[2]]).toEqual([100, 50]);
  });
});
