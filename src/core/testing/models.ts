import type { Vec3 } from '../geometry/vec';
import { boxTriangles, cylinderTriangles } from './fixtures';
import { sphereBand } from './shapes';

/** Things of known size to be recognised, in metres with y up: lists of parts with loose triangles. */
export interface ModelPart {
  name: string;
  triangles: number[];
}

const box = (name: string, from: Vec3, to: Vec3): ModelPart => ({ name, triangles: boxTriangles(from, to) });

const moved = (triangles: number[], by: Vec3): number[] => triangles.map((v, i) => v + by[i % 3]);

/** Turned about x, so that an upright axle lies along z. */
const laid = (triangles: number[]): number[] => {
  const out: number[] = [];
  for (let i = 0; i < triangles.length; i += 3) out.push(triangles[i], -triangles[i + 2], triangles[i + 1]);
  return out;
};

const post = (name: string, radius: number, height: number, at: Vec3, sides = 24): ModelPart => ({
  name,
  triangles: moved(cylinderTriangles(radius, height, sides), at),
});

/** A wall along x with openings [from, to, sill, head], built of the pieces round them. */
function wallWith(
  name: string,
  from: Vec3,
  length: number,
  thick: number,
  high: number,
  openings: number[][],
): ModelPart {
  const triangles: number[] = [];
  let x = 0;
  const add = (a: number, b: number, low: number, top: number) => {
    if (b > a && top > low) triangles.push(...moved(boxTriangles([a, low, 0], [b, top, thick]), from));
  };
  for (const [a, b, sill, head] of openings) {
    add(x, a, 0, high);
    add(a, b, 0, sill);
    add(a, b, head, high);
    x = b;
  }
  add(x, length, 0, high);
  return { name, triangles };
}

/** The part turned about y by a quarter, about the origin. */
const aside = (part: ModelPart): ModelPart => {
  const t: number[] = [];
  for (let i = 0; i < part.triangles.length; i += 3)
    t.push(part.triangles[i + 2], part.triangles[i + 1], -part.triangles[i]);
  return { ...part, triangles: t };
};

function chair(): ModelPart[] {
  const legs = [0, 1, 2, 3].map((n) => {
    const [x, z] = [(n % 2) * 0.38, (n >> 1) * 0.4];
    return box(`Leg ${n}`, [x - 0.21, 0, z - 0.22], [x - 0.21 + 0.04, n > 1 ? 0.43 : 0.88, z - 0.22 + 0.04]);
  });
  return [
    ...legs,
    box('Seat', [-0.22, 0.43, -0.23], [0.22, 0.46, 0.23]),
    box('Rail', [-0.17, 0.72, -0.22], [0.17, 0.86, -0.2]),
  ];
}

function wheel(): ModelPart[] {
  const tyre = moved(laid(cylinderTriangles(0.316, 0.205, 48)), [0, 0, -0.1]);
  const hub = moved(laid(cylinderTriangles(0.075, 0.23, 24)), [0, 0, -0.11]);
  return [
    { name: 'Tyre', triangles: tyre },
    { name: 'Hub', triangles: hub },
  ];
}

function bathroom(): ModelPart[] {
  return [
    box('Floor', [0, -0.12, 0], [2.6, 0, 2.1]),
    box('Ceiling', [0, 2.5, 0], [2.6, 2.62, 2.1]),
    wallWith('Wall north', [0, 0, -0.115], 2.6, 0.115, 2.5, [[0.9, 1.7, 0, 2.03]]),
    box('Wall east', [2.6, 0, 0], [2.715, 2.5, 2.1]),
    box('Bathtub', [0.02, 0, 1.35], [1.72, 0.57, 2.08]),
    box('Basin', [2.1, 0.72, 0.4], [2.58, 0.85, 1]),
    box('Door leaf', [0.9, 0.005, -0.08], [1.7, 2.02, -0.04]),
  ];
}

function house(doors: boolean): ModelPart[] {
  const window = (at: number) => [at, at + 1.1, 0.9, 2.2];
  const front = doors ? [[1.2, 2.2, 0, 2.1], window(3.4), window(6.2)] : [window(1.2), window(3.4), window(6.2)];
  const storey = (base: number, n: number, openings: number[][]) => [
    box(`Slab ${n}`, [0, base - 0.25, 0], [9.6, base, 7.4]),
    wallWith(`Wall ${n} south`, [0, base, 7.15], 9.6, 0.25, 2.6, openings),
    wallWith(`Wall ${n} north`, [0, base, 0], 9.6, 0.25, 2.6, [window(2.1), window(5.6)]),
    box(`Wall ${n} west`, [0, base, 0.25], [0.25, base + 2.6, 7.15]),
    box(`Wall ${n} east`, [9.35, base, 0.25], [9.6, base + 2.6, 7.15]),
  ];
  const roof: ModelPart = {
    name: 'Roof',
    triangles: [
      [-0.4, 5.45, 7.9, 10, 5.45, 7.9, 10, 8.2, 3.7, -0.4, 5.45, 7.9, 10, 8.2, 3.7, -0.4, 8.2, 3.7],
      [10, 5.45, -0.5, -0.4, 5.45, -0.5, -0.4, 8.2, 3.7, 10, 5.45, -0.5, -0.4, 8.2, 3.7, 10, 8.2, 3.7],
    ].flat(),
  };
  const leaf = doors ? [box('Front door', [1.2, 0, 7.25], [2.2, 2.1, 7.31])] : [];
  return [
    ...storey(0, 0, front),
    ...storey(2.85, 1, [window(1.2), window(3.4), window(6.2)]),
    box('Slab 2', [0, 5.45, 0], [9.6, 5.7, 7.4]),
    roof,
    ...leaf,
  ];
}

function tower(): ModelPart[] {
  const parts: ModelPart[] = [];
  for (let n = 0; n < 24; n++) {
    parts.push(box(`Slab ${n}`, [0, n * 3.3 - 0.3, 0], [18.6, n * 3.3, 16.2]));
    parts.push(box(`Core ${n}`, [6.4, n * 3.3, 5.6], [12.2, n * 3.3 + 3, 10.6]));
    for (const [x, z] of [
      [0.4, 0.4],
      [17.7, 0.4],
      [0.4, 15.3],
      [17.7, 15.3],
    ])
      parts.push(box(`Column ${n}`, [x, n * 3.3, z], [x + 0.5, n * 3.3 + 3, z + 0.5]));
  }
  parts.push(box('Roof slab', [0, 23 * 3.3 + 3, 0], [18.6, 23 * 3.3 + 3.3, 16.2]));
  return parts;
}

function viaduct(): ModelPart[] {
  const triangles: number[] = [];
  const [span, pier, width, spring] = [12.5, 2.4, 8.2, 14];
  for (let n = 0; n < 9; n++) {
    const x = n * (span + pier);
    triangles.push(...boxTriangles([x, 0, 0], [x + pier, spring, width]));
    for (let k = 0; k < 16; k++) {
      const [a, b] = [k, k + 1].map((i) => (i / 16) * Math.PI);
      const at = (t: number): [number, number] => [
        x + pier + span / 2 - (Math.cos(t) * span) / 2,
        spring + (Math.sin(t) * span) / 2,
      ];
      const [p, q] = [at(a), at(b)];
      triangles.push(
        p[0],
        p[1],
        0,
        q[0],
        q[1],
        0,
        q[0],
        q[1],
        width,
        p[0],
        p[1],
        0,
        q[0],
        q[1],
        width,
        p[0],
        p[1],
        width,
      );
    }
  }
  const end = 9 * (span + pier) + pier;
  triangles.push(...boxTriangles([9 * (span + pier), 0, 0], [end, spring, width]));
  triangles.push(...boxTriangles([0, spring + span / 2 + 0.8, 0], [end, spring + span / 2 + 1.6, width]));
  triangles.push(...boxTriangles([0, spring + span / 2 + 1.6, 0], [end, spring + span / 2 + 2.7, 0.35]));
  return [{ name: 'Viaduct', triangles }];
}

function street(): ModelPart[] {
  const parts = [
    box('Carriageway', [0, -0.3, 0], [140, 0, 7]),
    box('Kerb north', [0, -0.3, -0.15], [140, 0.12, 0]),
    box('Pavement north', [0, -0.3, -2.6], [140, 0.11, -0.15]),
  ];
  for (let n = 0; n < 14; n++) {
    const [x, high] = [n * 10, 6.2 + (n % 4) * 2.9];
    parts.push(box(`House ${n}`, [x, 0, -13], [x + 9.4, high, -2.7]));
    parts.push(box(`Door ${n}`, [x + 1, 0.11, -2.7], [x + 1.95, 2.2, -2.64]));
    parts.push(post(`Lamp ${n}`, 0.07, 4.6, [x + 5, 0, -0.6], 10));
  }
  return parts;
}

function statue(): ModelPart[] {
  const body: number[] = [];
  const ball = (r: number, at: Vec3, high = 1) => {
    const t = sphereBand(r, -Math.PI / 2, Math.PI / 2, 20, 12);
    for (let i = 0; i < t.length; i += 3) body.push(t[i] + at[0], t[i + 1] * high + at[1], t[i + 2] + at[2]);
  };
  ball(0.115, [0.01, 1.71, 0.03], 1.2);
  ball(0.21, [0, 1.27, 0], 1.6);
  ball(0.17, [0, 0.93, 0.01], 1.2);
  ball(0.09, [0.1, 0.45, 0.02], 5);
  ball(0.09, [-0.1, 0.45, 0], 5);
  ball(0.055, [0.27, 1.12, 0.06], 6);
  ball(0.055, [-0.27, 1.14, 0.02], 6);
  return [{ name: 'Statue', triangles: body }, box('Plinth', [-0.35, -0.3, -0.33], [0.35, 0, 0.36])];
}

function machinePart(): ModelPart[] {
  return [
    post('Flange', 0.08, 0.018, [0, 0, 0], 64),
    post('Neck', 0.045, 0.06, [0, 0.018, 0], 48),
    ...[0, 1, 2, 3, 4, 5].map((n) => {
      const a = (n / 6) * 2 * Math.PI;
      return post(`Bolt ${n}`, 0.005, 0.03, [Math.cos(a) * 0.064, -0.006, Math.sin(a) * 0.064], 12);
    }),
  ];
}

/** The house on a plot of its own, at coordinates of a country's grid. */
function site(): ModelPart[] {
  const far: Vec3 = [3_512_340, 112, -5_404_810];
  const all = [
    ...house(true),
    box('Terrain', [-40, -1, -30], [55, -0.25, 46]),
    box('Garage wall', [14, -0.25, 0], [14.2, 2.4, 6]),
    post('Tree', 0.4, 9, [-14, -0.25, 12], 12),
  ];
  return all.map((p) => ({ ...p, triangles: moved(p.triangles, far) }));
}

function stair(): ModelPart[] {
  return Array.from({ length: 14 }, (_, n) =>
    box(`Step ${n}`, [0, 0, n * 0.28], [1.1, (n + 1) * 0.178, (n + 1) * 0.28]),
  );
}

function table(): ModelPart[] {
  return [
    box('Top', [-0.8, 0.715, -0.4], [0.8, 0.745, 0.4]),
    ...[0, 1, 2, 3].map((n) => {
      const [x, z] = [(n % 2) * 1.44 - 0.75, (n >> 1) * 0.64 - 0.35];
      return box(`Leg ${n}`, [x, 0, z], [x + 0.06, 0.715, z + 0.06]);
    }),
  ];
}

function brickWall(): ModelPart[] {
  const bricks: ModelPart[] = [];
  for (let row = 0; row < 12; row++) {
    for (let n = 0; n < 9; n++) {
      const x = n * 0.25 + (row % 2) * 0.125;
      bricks.push(box(`Brick ${row}-${n}`, [x, row * 0.0833, 0], [x + 0.24, row * 0.0833 + 0.071, 0.115]));
    }
  }
  return bricks;
}

function bookcase(): ModelPart[] {
  return [
    box('Side left', [0, 0, 0], [0.02, 1.98, 0.3]),
    box('Side right', [0.82, 0, 0], [0.84, 1.98, 0.3]),
    ...Array.from({ length: 6 }, (_, n) =>
      box(`Board ${n}`, [0.02, 0.05 + n * 0.38, 0.01], [0.82, 0.07 + n * 0.38, 0.3]),
    ),
  ];
}

function office(): ModelPart[] {
  const parts: ModelPart[] = [];
  for (let n = 0; n < 3; n++) {
    parts.push(box(`Slab ${n}`, [0, n * 3.6 - 0.3, 0], [42, n * 3.6, 14.5]));
    const openings = Array.from({ length: 14 }, (_, k) => [0.6 + k * 3, 2.6 + k * 3, 0.85, 2.55]);
    parts.push(wallWith(`Front ${n}`, [0, n * 3.6, 14.2], 42, 0.3, 3.3, openings));
    parts.push(wallWith(`Back ${n}`, [0, n * 3.6, 0], 42, 0.3, 3.3, openings));
    parts.push(aside(wallWith(`Corridor ${n}`, [-14.2, n * 3.6, 20], 13.9, 0.12, 3.3, [[3, 4, 0, 2.13]])));
  }
  parts.push(box('Roof', [0, 10.5, 0], [42, 10.8, 14.5]));
  return parts;
}

/** Each under the name its file would have. */
export const MADE_MODELS: readonly (readonly [name: string, make: () => ModelPart[]])[] = [
  ['chair', chair],
  ['wheel', wheel],
  ['bathroom', bathroom],
  ['house', () => house(true)],
  ['house without doors', () => house(false)],
  ['tower', tower],
  ['viaduct', viaduct],
  ['street', street],
  ['statue', statue],
  ['machine part', machinePart],
  ['site', site],
  ['stair', stair],
  ['table', table],
  ['brick wall', brickWall],
  ['bookcase', bookcase],
  ['office', office],
];

/**
 * As an OBJ file.
 * @param perMetre units of the file in a metre
 * @param named false leaves everything with names that say nothing
 */
export function objText(parts: ModelPart[], perMetre: number, up: 'y' | 'z', named = true): string {
  const lines: string[] = [];
  let n = 1;
  const word = (v: number) => String(Number((v * perMetre).toPrecision(9)));
  parts.forEach((part, k) => {
    lines.push(`o ${named ? part.name : `Mesh.${k}`}`);
    const corners = new Map<string, number>();
    const faces: number[] = [];
    for (let i = 0; i < part.triangles.length; i += 3) {
      const [x, y, z] = part.triangles.slice(i, i + 3);
      const row = up === 'y' ? `v ${word(x)} ${word(y)} ${word(z)}` : `v ${word(x)} ${word(-z)} ${word(y)}`;
      let at = corners.get(row);
      if (at === undefined) {
        at = n++;
        corners.set(row, at);
        lines.push(row);
      }
      faces.push(at);
    }
    for (let i = 0; i < faces.length; i += 3) lines.push(`f ${faces[i]} ${faces[i + 1]} ${faces[i + 2]}`);
  });
  return lines.join('\n');
}
