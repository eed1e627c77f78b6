import {
  BufferAttribute,
  BufferGeometry,
  type LineSegments,
  Matrix4,
  Mesh,
  MeshBasicMaterial,
  PerspectiveCamera,
  Plane,
  Sphere,
  Vector2,
  Vector3,
} from 'three';
import type { Entry } from './entry';
import { Marks, type MarkState } from './Marks';
import { Picker } from './Picker';

/** Upright squares of 2 m, one behind the other along −z, as the room keeps surfaces. */
function entry(id: string, z: number, part = 'part'): Entry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.of(-1, -1, z, 1, -1, z, 1, 1, z, -1, 1, z), 3));
  geometry.setIndex(new BufferAttribute(Uint32Array.of(0, 1, 2, 0, 2, 3), 1));
  const mesh = new Mesh(geometry, new MeshBasicMaterial());
  mesh.updateMatrixWorld();
  return {
    region: {
      id,
      surface: { id },
      part: { id: part },
      parts: [{ id: part }],
      patches: [{ faces: [40, 2] }],
      members: [{ id, part }],
    },
    mesh,
    sphere: new Sphere(new Vector3(0, 0, z), Math.SQRT2),
    border: Float32Array.of(-1, -1, z, 1, -1, z),
    source: Uint32Array.of(40, 41),
  } as unknown as Entry;
}

const camera = new PerspectiveCamera(50, 1, 0.1, 100);
camera.position.set(0, 0, 6);
camera.updateMatrixWorld();

describe('picking', () => {
  const near = entry('near', 0);
  const far = entry('far', -3);
  const all = [near, far];
  const picker = new Picker(
    camera,
    () => new Vector2(400, 400),
    () => all.filter((e) => e.mesh.visible),
  );

  test('finds what is seen first, with the face of the part', () => {
    const hit = picker.pick(200, 220)!;
    expect(hit.surface).toBe('near');
    expect(hit.partFace).toBe(40 + hit.face);
    expect(hit.point.z).toBeCloseTo(0, 6);
    expect(picker.pick(2, 2)).toBeNull();
  });

  test('what is hidden is looked through', () => {
    near.mesh.visible = false;
    expect(picker.pick(200, 220)!.surface).toBe('far');
    near.mesh.visible = true;
  });

  test('faces within a rectangle are those of one part, each once', () => {
    const found = picker.facesIn([100, 100], [300, 300], false, null)!;
    expect(found.part).toBe('part');
    expect([...found.faces].sort()).toEqual([40, 41]);
    expect(picker.facesNear([200, 220], 10)!.faces.length).toBeGreaterThan(0);
  });

  test('what a section cuts away is not met, from either side', () => {
    // all before z = −1 is gone
    picker.cut = new Plane(new Vector3(0, 0, -1), -1);
    expect(picker.pick(200, 220)!.surface).toBe('far');
    // all behind it
    picker.cut = new Plane(new Vector3(0, 0, 1), 1);
    expect(picker.pick(200, 220)!.surface).toBe('near');
    near.mesh.visible = false;
    expect(picker.pick(200, 220)).toBeNull();
    near.mesh.visible = true;
    // the eye lies where all is gone, and looks away from what is left
    picker.cut = new Plane(new Vector3(0, 0, 1), -9);
    expect(picker.pick(200, 220)).toBeNull();
    picker.cut = null;
  });

  test('a ray of its own meets the nearest, locked or not', () => {
    const hit = picker.cast(new Vector3(0, 0, 9), new Vector3(0, 0, -1), all)!;
    expect(hit.object).toBe(near.mesh);
    expect(picker.cast(new Vector3(50, 0, 9), new Vector3(0, 0, -1), all)).toBeNull();
  });
});

describe('marks', () => {
  const entries = new Map(
    [entry('a', 0), entry('b', -1), entry('c', -2), entry('far', -9)].map((e) => [e.region.id, e]),
  );
  const state = (rest: Partial<MarkState>): MarkState => ({
    selected: [],
    hovered: [],
    faces: null,
    edges: false,
    clean: false,
    colours: { selected: '#a83a2e', hovered: '#4a6db5' },
    ...rest,
  });
  const lines = (marks: Marks) => marks.scene.children as LineSegments<BufferGeometry>[];
  /** How many corners of lines there are, list by list. */
  const corners = (marks: Marks) => lines(marks).map((l) => l.geometry.getAttribute('position').count);

  test('go round what is picked and what is hovered, twice each: faint behind other things', () => {
    const marks = new Marks();
    marks.set(entries, state({ selected: ['a', 'b'], hovered: ['c'] }));
    // two surfaces in one list of lines, and one
    expect(corners(marks)).toEqual([4, 4, 2, 2]);
    // what is both is marked once, as picked
    marks.set(entries, state({ selected: ['a', 'b'], hovered: ['b'] }));
    expect(corners(marks)).toEqual([4, 4]);
    marks.set(entries, state({ selected: ['a'], hovered: ['gone'] }));
    expect(corners(marks)).toEqual([2, 2]);
  });

  test('moving over surfaces makes no new material, and leaves the lines of what is picked', () => {
    const marks = new Marks();
    const materials = new Set<unknown>();
    const geometries = new Set<unknown>();
    for (const hovered of ['a', 'b', 'c', 'a', 'b', 'c']) {
      marks.set(entries, state({ selected: ['far'], hovered: [hovered] }));
      for (const line of lines(marks)) materials.add(line.material);
      geometries.add(lines(marks)[0].geometry);
    }
    expect(materials.size).toBe(4);
    expect(geometries.size).toBe(1);
  });

  test('lie where the surfaces stand', () => {
    const moved = entry('moved', 0);
    moved.mesh.position.set(10, 20, 30);
    moved.mesh.scale.setScalar(0.5);
    moved.mesh.updateMatrixWorld();
    const marks = new Marks();
    marks.set(new Map([['moved', moved]]), state({ selected: ['moved'] }));
    const [line] = lines(marks);
    expect([...line.geometry.getAttribute('position').array]).toEqual([9.5, 19.5, 30, 10.5, 19.5, 30]);
    expect(line.matrix.equals(new Matrix4())).toBe(true);
  });

  test('vanish while a key is held; hidden surfaces have none', () => {
    const marks = new Marks();
    marks.set(entries, state({ selected: ['a'], hovered: ['b'], clean: true }));
    expect(corners(marks)).toEqual([]);
    entries.get('a')!.mesh.visible = false;
    marks.set(entries, state({ selected: ['a'] }));
    expect(corners(marks)).toEqual([]);
    entries.get('a')!.mesh.visible = true;
  });

  test('the mesh’s edges: three for every triangle, where the surfaces stand, and gone with them', () => {
    const own = entry('own', 0);
    own.mesh.position.set(10, 20, 30);
    own.mesh.updateMatrixWorld();
    const marks = new Marks();
    const all = new Map([['own', own]]);
    marks.set(all, state({ edges: true }));
    const [line] = lines(marks);
    const { array } = own.mesh.geometry.getIndex()!;
    expect(line.geometry.getIndex()!.count).toBe(array.length * 2);
    const index = line.geometry.getIndex()!.array;
    expect([...index.slice(0, 6)]).toEqual([array[0], array[1], array[1], array[2], array[2], array[0]]);
    expect(line.geometry.getAttribute('position')).toBe(own.mesh.geometry.getAttribute('position'));
    expect(line.matrix.equals(own.mesh.matrixWorld)).toBe(true);
    // seen again they are the same lines; nothing is made of what is hidden, or while marks are gone
    marks.set(all, state({ edges: true, hovered: ['gone'] }));
    expect(lines(marks)[0].geometry).toBe(line.geometry);
    marks.set(all, state({ edges: true, clean: true }));
    expect(lines(marks)).toEqual([]);
    const dropped = jest.fn();
    line.geometry.addEventListener('dispose', dropped);
    own.mesh.geometry.dispose();
    expect(dropped).toHaveBeenCalledTimes(1);
  });

  test('picked faces are marked on their part', () => {
    const marks = new Marks();
    const faces = { part: 'part', lines: Float32Array.of(0, 0, 0, 1, 0, 0) };
    marks.set(entries, state({ faces }));
    expect(corners(marks)).toEqual([2]);
    marks.set(entries, state({ faces: { ...faces, part: 'elsewhere' } }));
    expect(corners(marks)).toEqual([]);
  });
});
