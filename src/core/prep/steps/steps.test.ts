import Ajv from 'ajv';
import { blankRaster, WHITE } from '../../picture/raster';
import { fieldsKeepTheirOwn } from '../../testing/fields';
import { MASK_GROUPS } from './maskFields';
import { placesOfMask } from './places';
import { type Step, stepOf, STEPS } from './registry';
import type { AnyStep } from './step';
import { runSteps, StepError } from '../run';

const ajv = new Ajv({ strict: false });
const made = (kind: (typeof STEPS)[number]['kind'], rest: object = {}) =>
  ({ id: `${kind}-1`, on: true, mask: null, ...stepOf({ kind }).first, ...rest }) as unknown as Step;
const picture = blankRaster(80, 60, 3);
picture.data.forEach((_, i) => (picture.data[i] = (i * 7919) % WHITE));
const run = (...steps: Step[]) => runSteps(picture, 300, steps);

const context = { aspect: 0.75, sizeBefore: [600, 450] as [number, number] };
const LINE = [0, 0.5, 1].map((y): [number, number] => [0.1, y]);
const fieldsOfStep = (step: Step) => stepOf<AnyStep>(step).groups.flatMap((g) => g.fields);

describe('what is set of a step', () => {
  const sizes = ['line', 'count', 'typed', 'resolution'];
  const variants: [string, Step][] = [
    ...STEPS.map((s): [string, Step] => [s.label, made(s.kind)]),
    ...sizes.map((kind): [string, Step] => {
      const [by] = fieldsOfStep(made('size'));
      return [`Size by ${kind}`, by.set(made('size'), kind as never, context) as Step];
    }),
    ['Resize to a density', made('resize', { to: { kind: 'density', pxPerMm: 2 } })],
    [
      'Dirt of a picture',
      made('dirt', {
        picture: {
          image: 'a'.repeat(64),
          name: 'Rust',
          widthMm: 400,
          heightMm: 300,
          lies: 'darks',
          blurMm: 2,
          tint: 0.5,
        },
      }),
    ],
    ['Compose in rows', made('compose', { lay: 'rows' })],
    ['Seamless on periods', made('seamless', { mode: 'period' })],
    ['Seamless along a line', made('seamless', { lines: [LINE] })],
  ];
  test.each(variants)('%s: each field sets its own value alone', (_label, step) => {
    fieldsKeepTheirOwn(fieldsOfStep(step), step as AnyStep, context, ajv.compile(stepOf(step).schema));
  });

  const placed = variants.flatMap(([label, step]): [string, Step][] =>
    stepOf(step).places?.(step).length ? [[label, step]] : [],
  );
  test('steps that are set by places are those the artist drags', () => {
    expect(placed.map(([label]) => label)).toEqual([
      'Four corners',
      'Size',
      'Crop',
      'Size by line',
      'Size by count',
      'Seamless along a line',
    ]);
  });

  test.each(placed)('%s: a place that is dragged moves alone, and is stored as the schema wants it', (_label, step) => {
    const { places } = stepOf<Step>(step);
    const [before] = places!(step);
    before.points.forEach(({ moved }, n) => {
      const [after] = places!(moved([0.31, 0.47]));
      expect(ajv.validate(stepOf(step).schema, moved([0.31, 0.47]))).toBe(true);
      expect(after.points.map(({ at }) => at)).toEqual(before.points.map(({ at }, k) => (k === n ? [0.31, 0.47] : at)));
    });
  });

  test('the width of an ellipse follows its own place, from either side', () => {
    const mask = {
      kind: 'ellipse' as const,
      centre: [0.5, 0.4] as [number, number],
      radius: [0.2, 0.1] as [number, number],
      softness: 0.5,
      outside: false,
    };
    const [middle, width, height] = placesOfMask(mask)!.points;
    expect(width.moved([0.2, 0.9])).toMatchObject({ centre: [0.5, 0.4], radius: [0.3, 0.1] });
    expect(height.moved([0.9, 0.4])).toMatchObject({ radius: [0.2, 0.01] });
    expect(middle.moved([0.1, 0.1])).toMatchObject({ centre: [0.1, 0.1], radius: [0.2, 0.1] });
    const [all, none] = placesOfMask({ kind: 'gradient', from: [0, 0], to: [1, 0] })!.points;
    expect([all.moved([0.5, 0]), none.moved([0.5, 0])]).toMatchObject([
      { from: [0.5, 0], to: [1, 0] },
      { from: [0, 0], to: [0.5, 0] },
    ]);
  });

  test('a line stays where it was drawn when it is measured otherwise', () => {
    const [by] = fieldsOfStep(made('size'));
    const drawn = made('size', { by: { kind: 'line', from: [0.1, 0.2], to: [0.9, 0.3], lengthMm: 800 } });
    expect(by.set(drawn, 'count' as never, context)).toMatchObject({
      by: { from: [0.1, 0.2], to: [0.9, 0.3], count: 7 },
    });
    expect(by.set(drawn, 'typed' as never, context)).toMatchObject({ by: { widthMm: 1000, heightMm: 750 } });
    expect(by.set(drawn, 'line' as never, context)).toEqual(drawn);
    expect(stepOf(drawn).hint!(drawn)).toContain('ends of the line');
    expect(stepOf(drawn).hint!(made('size', { by: { kind: 'resolution', pixelsPerInch: 72 } }))).toBeNull();
  });

  test('a line for the seam is drawn: within the picture, of few places, the oldest let go of', () => {
    const { draw } = stepOf<Step>(made('seamless'));
    const hand = Array.from({ length: 400 }, (_, i): [number, number] => [0.1 + 0.1 * Math.sin(i / 3), i / 380 - 0.02]);
    const { lines } = draw!(made('seamless'), hand) as Extract<Step, { kind: 'seamless' }>;
    expect(lines![0].length).toBeLessThanOrEqual(24);
    expect(lines![0][0][1]).toBe(0);
    expect(lines![0].at(-1)![1]).toBe(1);
    expect(ajv.validate(stepOf(made('seamless')).schema, draw!(made('seamless'), hand))).toBe(true);
    const four = made('seamless', { lines: [LINE, LINE, LINE, LINE] });
    const more = draw!(four, [
      [0.9, 0],
      [0.9, 1],
    ]) as Extract<Step, { kind: 'seamless' }>;
    expect(more.lines).toEqual([
      LINE,
      LINE,
      LINE,
      [
        [0.9, 0],
        [0.9, 1],
      ],
    ]);
  });

  test('lines that lead nothing are said, with why', () => {
    const said = (rest: object) =>
      run(made('seamless', { lines: [LINE], ...rest }))
        .remarks.map((r) => r.text)
        .filter((text) => /\blines?\b/i.test(text));
    expect(said({})).toEqual([]);
    expect(said({ across: false })).toEqual(['Line 1 leads no seam: it runs up, and side to side is not closed.']);
    expect(said({ mode: 'mirror' })[0]).toContain('no seam to lead');
    const middle = made('seamless', { lines: [LINE.map(([, y]) => [0.5, y])] });
    expect(() => run(middle)).toThrow('no place of it may lie more than 40% from the left or right edge');
  });

  test('where it works: an ellipse keeps its place when it is turned inside out', () => {
    const [where, soft] = MASK_GROUPS[0].fields;
    const step = made('even') as AnyStep;
    const inside = where.set(step, 'ellipse' as never, context);
    const moved = { ...inside, mask: { ...inside.mask!, centre: [0.2, 0.7] } } as AnyStep;
    for (const s of [
      step,
      moved,
      where.set(step, 'gradient' as never, context),
      where.set(step, 'patches' as never, context),
    ])
      fieldsKeepTheirOwn(MASK_GROUPS[0].fields, s, context, ajv.compile(stepOf(s).schema));
    expect(where.set(moved, 'outside' as never, context).mask).toMatchObject({ centre: [0.2, 0.7], outside: true });
    expect(soft.set(step, 50 as never, context)).toBe(step);
    expect(placesOfMask(where.set(step, 'patches' as never, context).mask!)).toBeNull();
    expect(STEPS.filter((s) => stepOf(made(s.kind)).masked).map((s) => s.kind)).toEqual([
      ...['even', 'colour', 'heal', 'dirt', 'heightColour'],
    ]);
  });
});

describe('steps as definitions', () => {
  test.each(STEPS.map((s) => [s.label, s] as const))(
    '%s: a new one is valid, has words, and can be done',
    (_l, step) => {
      const valid = ajv.compile(step.schema);
      const first = made(step.kind);
      expect(valid(first)).toBe(true);
      const { begin } = stepOf<Step>(first);
      expect(valid({ ...first, id: undefined })).toBe(false);
      expect(step.what).toMatch(/\w/);
      expect(stepOf(first)).toBe(step);
      expect(typeof stepOf(first).brief(first)).toBe('string');
      const { stage } = run(begin ? begin(first, [6.8, 5.1]) : first);
      expect(stage.raster.width).toBeGreaterThan(7);
    },
  );

  test('kinds are told apart, in the usual order of doing', () => {
    expect(new Set(STEPS.map((s) => s.kind)).size).toBe(STEPS.length);
    expect(STEPS.map((s) => s.kind)).toEqual([
      'corners',
      'turn',
      'size',
      'crop',
      'even',
      'colour',
      'extend',
      'compose',
      'seamless',
      'heal',
      'resize',
      'dirt',
      'heightColour',
    ]);
    expect(() => stepOf({ kind: 'varnish' })).toThrow('there is no step “varnish”');
  });

  test.each<[Step, string]>([
    [made('size', { by: { kind: 'line', from: [0, 0], to: [1, 0], lengthMm: 500 } }), '500 mm'],
    [made('size', { by: { kind: 'count', from: [0, 0], to: [1, 0], count: 4, pieceMm: 215 } }), '4 of 215 mm'],
    [made('size', { by: { kind: 'typed', widthMm: 900, heightMm: 600 } }), '900 mm wide'],
    [made('size', { by: { kind: 'resolution', pixelsPerInch: 300 } }), '300 px/in'],
    [made('corners', { widthMm: 1000, heightMm: 750 }), '1000 × 750 mm'],
    [made('turn', { turnDeg: 3.5 }), '3.5°'],
    [made('crop'), ''],
    [made('even', { radiusMm: 150 }), 'over 150 mm'],
    [made('seamless'), 'blended'],
    [made('seamless', { mode: 'period' }), 'on whole periods'],
    [made('seamless', { mode: 'mirror' }), 'mirrored'],
    [made('heal'), '0 strokes'],
    [made('heal', { strokes: [{}] }), '1 stroke'],
    [made('resize'), ''],
  ])('%j is put in a few words', (step, words) => expect(stepOf(step).brief(step)).toBe(words));
});

test.each([
  [made('corners', { widthMm: 1000, heightMm: 750 }), 'straightened to 1000 × 750 mm'],
  [made('turn', { turnDeg: 5.1 }), 'turned 5.1°'],
  [made('turn', { turnDeg: 0, leanDeg: 2 }), 'turned 0° and set upright'],
  [made('size', { by: { kind: 'typed', widthMm: 900, heightMm: 600 } }), 'said to be 900 mm wide'],
  [made('size', { by: { kind: 'resolution', pixelsPerInch: 300 } }), 'taken at 300 pixels per inch'],
  [made('crop'), 'cropped'],
  [made('colour'), 'its colours set'],
  [made('even', { radiusMm: 150 }), 'evened over 150 mm'],
  [made('seamless'), 'closed over 20%'],
  [made('seamless', { mode: 'period' }), 'closed on whole periods'],
  [made('seamless', { mode: 'mirror' }), 'closed by mirroring'],
  [made('heal', { strokes: [{}] }), 'mended in 1 stroke'],
  [made('resize'), 'made a power of two'],
])('%j is said in the sentence', (step, words) => expect(stepOf(step).said(step)).toBe(words));

describe('size', () => {
  const mm = (by: object) => run(made('size', { by })).stage.mmPerPx!.map((v) => Math.round(v * 1e6) / 1e6);

  test('by a line, by pieces along one, typed, or by resolution', () => {
    expect(mm({ kind: 'line', from: [0, 0.5], to: [1, 0.5], lengthMm: 160 })).toEqual([2, 2]);
    expect(mm({ kind: 'line', from: [0.5, 0], to: [0.5, 1], lengthMm: 60 })).toEqual([1, 1]);
    expect(mm({ kind: 'count', from: [0, 0], to: [1, 1], count: 4, pieceMm: 50 })).toEqual([2, 2]);
    expect(mm({ kind: 'typed', widthMm: 160, heightMm: 60 })).toEqual([2, 1]);
    expect(mm({ kind: 'resolution', pixelsPerInch: 25.4 })).toEqual([1, 1]);
    expect(runSteps(picture, 254, []).stage.mmPerPx![0]).toBeCloseTo(0.1, 12);
    expect(runSteps(picture, null, []).stage.mmPerPx).toBeNull();
  });

  test('a shape that is not the picture’s is said to be stretched; a line too short is refused', () => {
    expect(run(made('size', { by: { kind: 'typed', widthMm: 160, heightMm: 60 } })).remarks[0].text).toMatch(/100%/);
    expect(run(made('size', { by: { kind: 'typed', widthMm: 160, heightMm: 120 } })).remarks).toEqual([]);
    const short = made('size', { by: { kind: 'line', from: [0.5, 0.5], to: [0.51, 0.5], lengthMm: 5 } });
    expect(() => run(short)).toThrow(StepError);
    expect(() => run(short)).toThrow('Size: the line is too short to measure by.');
  });
});

describe('shape', () => {
  test('corners make a rectangle of the size given, with the pixels of its longer sides', () => {
    const corners = [
      [0, 0],
      [1, 0],
      [1, 1],
      [0, 1],
    ];
    const { stage } = run(made('corners', { corners, widthMm: 40, heightMm: 30 }));
    expect([stage.raster.width, stage.raster.height]).toEqual([80, 60]);
    expect(stage.mmPerPx).toEqual([0.5, 0.5]);
    const crossed = [corners[0], corners[2], corners[1], corners[3]];
    expect(() => run(made('corners', { corners: crossed }))).toThrow(/cross or lie on a line/);
    const tiny = corners.map(([x, y]) => [x * 0.05, y * 0.05]);
    expect(() => run(made('corners', { corners: tiny }))).toThrow(/too near/);
    expect(() => run(made('corners', { corners, widthMm: 100_000, heightMm: 1 }))).toThrow(/too near|8192/);
  });

  test('turned by nothing it is the same; turned, uneven pixels are taken to be alike', () => {
    const same = run(made('turn'));
    expect(same.stage.raster).toBe(picture);
    const uneven = made('size', { by: { kind: 'typed', widthMm: 160, heightMm: 60 } });
    const { stage, remarks } = run(uneven, made('turn', { turnDeg: 5 }));
    expect(remarks.some((r) => /pixels are not square/.test(r.text))).toBe(true);
    expect(stage.mmPerPx).toEqual([1.5, 1.5]);
  });

  test('cropped to what is drawn, whichever way round; nothing left is refused', () => {
    const { stage } = run(made('crop', { from: [0.75, 0.9], to: [0.25, 0.4] }));
    expect([stage.raster.width, stage.raster.height]).toEqual([40, 30]);
    expect(run(made('crop', { from: [-2, -2], to: [4, 4] })).stage.raster.width).toBe(80);
    expect(() => run(made('crop', { from: [0, 0], to: [0.05, 1] }))).toThrow(/less than 8 pixels/);
  });

  test('resized: to powers of two, or to pixels per millimetre where its size is known', () => {
    const { stage, remarks } = run(made('resize'));
    const { width, height } = stage.raster;
    for (const side of [width, height]) expect(Math.log2(side) % 1).toBe(0);
    expect(stage.mmPerPx![0] * width).toBeCloseTo((25.4 / 300) * 80, 9);
    if (width > 82 || height > 62) expect(remarks[0].text).toMatch(/Enlarged from 80 × 60/);
    const to = { kind: 'density', pxPerMm: 0.5 };
    expect(() => runSteps(picture, null, [made('resize', { to })])).toThrow('Resize: its size is not known');
    const half = run(made('size', { by: { kind: 'typed', widthMm: 80, heightMm: 60 } }), made('resize', { to }));
    expect([half.stage.raster.width, half.stage.raster.height]).toEqual([40, 30]);
    const most = { kind: 'density', pxPerMm: 1000 };
    expect(() =>
      run(made('size', { by: { kind: 'typed', widthMm: 800, heightMm: 600 } }), made('resize', { to: most })),
    ).toThrow(/8 × 8 to at most 8192 × 8192 are made/);
  });
});

test('a step that is switched off is as if it were not there', () => {
  const { stage } = run(made('crop', { from: [0.2, 0.2], to: [0.5, 0.5], on: false }));
  expect(stage.raster).toBe(picture);
});
