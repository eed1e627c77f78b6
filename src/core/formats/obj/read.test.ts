import { reachOf } from '../../mesh/types';
import { ImportError } from '../../mesh/types';
import { fileSetOf, findReference } from '../fileSet';
import { readModel } from '../readModel';
import { parseMtl } from './mtl';
import { readObj } from './read';

const bytes = (text: string) => new TextEncoder().encode(text);
const read = (text: string, others: Record<string, string> = {}, options = {}) =>
  readObj(
    fileSetOf({
      'house/room.obj': bytes(text),
      ...Object.fromEntries(Object.entries(others).map(([k, v]) => [k, bytes(v)])),
    }),
    'house/room.obj',
    options,
  );
const SQUARE = 'v 0 0 0\nv 2 0 0\nv 2 1 0\nv 0 1 0\n';
/** Corners of every triangle, in the file's own numbers. */
const cornersOf = ({ parts: [p] }: ReturnType<typeof read>) =>
  [...p.indices].map((i) => [0, 1, 2].map((c) => Math.round((p.positions[i * 3 + c] + p.origin[c]) * 1e4) / 1e4));
const areaOf = (corners: number[][]) => {
  let area = 0;
  for (let k = 0; k < corners.length; k += 3) {
    const [a, b, c] = corners.slice(k, k + 3);
    area += ((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])) / 2;
  }
  return area;
};

describe('faces', () => {
  test('triangles as they are, by numbers from the start or back from the end', () => {
    const expected = [
      [0, 0, 0],
      [2, 0, 0],
      [2, 1, 0],
    ];
    expect(cornersOf(read(`${SQUARE}f 1 2 3`))).toEqual(expected);
    expect(cornersOf(read(`${SQUARE}f -4 -3 -2`))).toEqual(expected);
    expect(cornersOf(read(`${SQUARE}f 1 2 \\\n 3 # a comment`))).toEqual(expected);
  });

  test('polygons become triangles of the same sense, concave ones too', () => {
    expect(areaOf(cornersOf(read(`${SQUARE}f 1 2 3 4`)))).toBeCloseTo(2, 6);
    expect(areaOf(cornersOf(read(`${SQUARE}f 4 3 2 1`)))).toBeCloseTo(-2, 6);
    const ell = 'v 0 0 0\nv 3 0 0\nv 3 1 0\nv 1 1 0\nv 1 3 0\nv 0 3 0\nf 1 2 3 4 5 6';
    const made = read(ell);
    expect(made.parts[0].indices).toHaveLength(12);
    expect(areaOf(cornersOf(made))).toBeCloseTo(5, 6);
  });

  test('polygons that stand are cut in the plane they stand in', () => {
    for (const [from, to] of [
      ['v $1 0 $2', 1],
      ['v 0 $1 $2', 1],
      ['v $2 0 $1', 1],
    ] as const) {
      const text = SQUARE.replace(/v (\S+) (\S+) \S+/g, from) + 'f 1 2 3 4';
      const corners = cornersOf(read(text));
      expect(corners).toHaveLength(6 * to);
      const distinct = new Set(corners.map((c) => c.join()));
      expect(distinct.size).toBe(4);
    }
  });

  test('fewer than three corners, or none that span an area, are left out with a word', () => {
    const { remarks, parts } = read(`${SQUARE}f 1 2 3\nf 1 2\nf 1 1 1 1`);
    expect(parts[0].indices).toHaveLength(3);
    expect(remarks).toContainEqual({ kind: 'repaired', text: '2 faces with fewer than three corners left out' });
  });

  test('corners that share everything are one vertex; another normal makes another', () => {
    const normals = 'vn 0 0 1\nvn 0 1 0\n';
    expect(read(`${SQUARE}${normals}f 1//1 2//1 3//1\nf 1//1 3//1 4//1`).parts[0].positions).toHaveLength(12);
    expect(read(`${SQUARE}${normals}f 1//1 2//1 3//1\nf 1//2 3//1 4//1`).parts[0].positions).toHaveLength(15);
  });
});

describe('coordinates and normals', () => {
  const uv = 'vt 0 0\nvt 1 0\nvt 1 0.5\n';

  test('come along where they are given', () => {
    const { parts } = read(`${SQUARE}${uv}vn 0 0 1\nf 1/1/1 2/2/1 3/3/1`);
    expect([...parts[0].uvs[0]]).toEqual([0, 0, 1, 0, 1, 0.5]);
    expect([...parts[0].normals!]).toEqual([0, 0, 1, 0, 0, 1, 0, 0, 1]);
  });

  test('are null where the file has none for some of it, with a word', () => {
    const { parts, remarks } = read(`${SQUARE}${uv}vn 0 0 1\nf 1/1/1 2/2/1 3/3/1\nf 1 3 4`);
    expect(parts[0].normals).toBeNull();
    expect(parts[0].uvs).toHaveLength(1);
    expect(remarks).toContainEqual({ kind: 'repaired', text: '1 part had no normals; they were made' });
    expect(read(`${SQUARE}f 1 2 3`).parts[0].uvs).toEqual([]);
    const odd = read(`${SQUARE}vt x\nvn 1 y\nf 1/1/1 2/1/1 3/1/1`);
    expect([...odd.parts[0].uvs[0].slice(0, 2), ...odd.parts[0].normals!.slice(0, 3)]).toEqual([0, 0, 1, 0, 0]);
  });
});

describe('parts', () => {
  test('objects are parts, groups above them are their path; without any the file is one', () => {
    const text = `${SQUARE}g Ground floor\no Wall\nf 1 2 3\no Door\nf 1 3 4\no Wall\nf 2 3 4`;
    const { parts } = read(text);
    expect(parts.map((p) => [p.name, p.path, p.indices.length])).toEqual([
      ['Wall', ['Ground floor'], 6],
      ['Door', ['Ground floor'], 3],
    ]);
    expect(read(`${SQUARE}f 1 2 3`).parts[0].name).toBe('room');
    const groups = read(`${SQUARE}g A\nf 1 2 3\ng B\nf 1 3 4\ng\nf 2 3 4`);
    expect(groups.parts.map((p) => p.name)).toEqual(['A', 'B', 'Group']);
  });

  test('far from the origin nothing is lost: points are kept about their middle', () => {
    const far = 'v 1000000.25 0 0\nv 1000001.25 0 0\nv 1000001.25 1 0\nf 1 2 3';
    const [part] = read(far).parts;
    expect(part.origin[0]).toBe(1000000.75);
    expect(reachOf(part)).toBe(0.5);
    expect([...part.positions].filter((_, i) => i % 3 === 0)).toEqual([-0.5, 0.5, 0.5]);
  });

  test('lines, points and curves are left out with a word', () => {
    const { remarks } = read(`${SQUARE}l 1 2\np 1\np 2\ncurv 0 1 1 2\nf 1 2 3`);
    expect(remarks.map((r) => r.text)).toEqual([
      '1 line',
      '2 sets of loose points',
      '1 free-form curve or surface',
      '1 part had no normals; they were made',
    ]);
  });
});

describe('slots', () => {
  const MTL = 'newmtl Oak\nKd 0.5 0.25 0.1\nd 0.5\nPr 0.3\nPm 1\nmap_Kd -s 2 4 1 tex/oak plank.png\nnorm oak_n.jpg\n';

  test('are named by usemtl, in the order they come; what has none is “No material”', () => {
    const { slots, parts } = read(`${SQUARE}f 1 2 3\nusemtl Oak\nf 1 3 4\nusemtl Lime\nf 1 2 4\nusemtl Oak\nf 2 3 4`);
    expect(slots.map((s) => s.name)).toEqual(['No material', 'Oak', 'Lime']);
    expect([...parts[0].slots]).toEqual([0, 1, 2, 1]);
  });

  test('take colour, finish and pictures from the material file', () => {
    const model = read(`mtllib room.mtl\n${SQUARE}usemtl Oak\nf 1 2 3`, {
      'house/room.mtl': MTL,
      'house/tex/oak plank.png': 'png',
      'elsewhere/OAK_N.JPG': 'jpg',
    });
    expect(model.slots[0]).toMatchObject({
      name: 'Oak',
      colour: [0.5, 0.25, 0.1, 0.5],
      roughness: 0.3,
      metallic: 1,
      pictures: { baseColour: 'tex/oak plank.png', normal: 'oak_n.jpg' },
      textureScale: [2, 4],
    });
    expect(model.pictures.map((p) => [p.path, p.mime])).toEqual([
      ['tex/oak plank.png', 'image/png'],
      ['oak_n.jpg', 'image/jpeg'],
    ]);
    expect(model.missingPictures).toEqual([]);
  });

  test('what did not come along is named', () => {
    const model = read(`mtllib room.mtl\n${SQUARE}usemtl Oak\nf 1 2 3`, { 'house/room.mtl': MTL });
    expect(model.missingPictures).toEqual(['tex/oak plank.png', 'oak_n.jpg']);
    const none = read(`mtllib gone.mtl\n${SQUARE}f 1 2 3`);
    expect(none.remarks[0]).toEqual({
      kind: 'missing',
      text: 'the material file “gone.mtl” did not come along; slots have names only',
    });
    const odd = read(`mtllib room.mtl\n${SQUARE}usemtl Oak\nf 1 2 3`, {
      'house/room.mtl': 'newmtl Oak\nmap_Kd oak.exr',
      'house/oak.exr': 'x',
    });
    expect(odd.missingPictures).toEqual(['oak.exr (a kind of picture that is not read)']);
    expect(odd.slots[0].pictures).toEqual({});
  });

  test('a material file: unknown statements are passed over, options before a name read', () => {
    const library = parseMtl(
      'Kd 1 1 1\nnewmtl A\nKd 1 x 1\nTr 0.25\nillum 2\nmap_Bump -bm 0.5 -clamp on relief.png\n' +
        'newmtl B b\nmap_d -o 1 2 mask.png\nmap_Ke -s 3 glow.png\nKd 0.1 0.2 0.3 # dark\nPr x\nmap_Kd',
    );
    expect(library.get('A')).toEqual({
      colour: [0.8, 0.8, 0.8, 0.75],
      pictures: { height: 'relief.png' },
      twoSided: false,
    });
    expect(library.get('B b')).toEqual({
      colour: [0.1, 0.2, 0.3, 1],
      pictures: { opacity: 'mask.png', emission: 'glow.png' },
      twoSided: false,
      textureScale: [3, 3],
    });
  });
});

describe('what is refused', () => {
  const refused = (text: string, options = {}) => {
    try {
      read(text, {}, options);
    } catch (error) {
      expect(error).toBeInstanceOf(ImportError);
      return (error as ImportError).reason;
    }
    throw new Error('it was read');
  };

  test.each<[string, string | RegExp]>([
    ['', 'the file is empty'],
    ['v 0 0\nf 1 1 1', /line 1: “v 0 0” is not a position of three finite numbers/],
    ['v 0 0 NaN', /line 1/],
    [`${SQUARE}f 1 2 9`, 'line 5: vertex 9 does not exist; there are 4'],
    [`${SQUARE}f 1 2 0`, /line 5: vertex 0 does not exist/],
    [`${SQUARE}f 1 2 -5`, /vertex -5 does not exist/],
    [`${SQUARE}f 1 2 1.5`, /vertex 1.5 does not exist/],
    [`${SQUARE}f 1/1 2/1 3/1`, 'line 5: coordinate 1 does not exist; there are 0'],
    [`${SQUARE}f 1//2 2//2 3//2`, 'line 5: normal 2 does not exist; there are 0'],
    ['hello there', 'this is not an OBJ file: no vertex and no face is in it'],
    [SQUARE, 'it has no faces; a model needs faces to lay materials on'],
    ['v 0 0 0\u0000', 'this is not an OBJ file: it holds binary data'],
  ])('%j', (text, reason) => {
    if (typeof reason === 'string') expect(refused(text)).toBe(reason);
    else expect(refused(text)).toMatch(reason);
  });

  test('more triangles than are read', () => {
    expect(refused(`${SQUARE}f 1 2 3 4`, { maxTriangles: 1 })).toMatch(/more than 1 triangles/);
    expect(read(`${SQUARE}f 1 2 3 4`, {}, { maxTriangles: 2 }).parts).toHaveLength(1);
  });
});

describe('files of a drop', () => {
  test('a reference is found beside its file, from the top, or by name alone', () => {
    const files = fileSetOf({ 'a/b/oak.png': bytes(''), 'oak.png': bytes(''), 'tex/Lime Wash.PNG': bytes('') });
    expect(findReference(files, 'a/b/room.mtl', 'oak.png')).toBe('a/b/oak.png');
    expect(findReference(files, 'a/room.mtl', './b/../b/oak.png')).toBe('a/b/oak.png');
    expect(findReference(files, 'x/room.mtl', 'oak.png')).toBe('oak.png');
    expect(findReference(files, 'room.mtl', 'C:\\work\\lime wash.png')).toBe('tex/Lime Wash.PNG');
    expect(findReference(files, 'room.mtl', 'tex/Lime%20Wash.PNG')).toBe('tex/Lime Wash.PNG');
    expect(findReference(files, 'room.mtl', '%zz.png')).toBeNull();
  });

  test('the largest model is read, others are named; none is said so', async () => {
    const small = bytes(`${SQUARE}f 1 2 3`);
    const large = bytes(`${SQUARE}f 1 2 3 4 # the larger one`);
    const model = await readModel(fileSetOf({ 'b.obj': small, 'a.obj': large, 'note.txt': bytes('x') }));
    expect(model.name).toBe('a');
    expect(model.remarks).toContainEqual({ kind: 'left out', text: '“b.obj”: one model comes in at a time' });
    await expect(readModel(fileSetOf({ 'note.txt': bytes('x') }))).rejects.toThrow(/this is not a model/);
    await expect(readModel(fileSetOf({ 'a.txt': bytes('x'), 'b.txt': bytes('y') }))).rejects.toThrow(
      /none of the 2 files is a model/,
    );
  });
});
