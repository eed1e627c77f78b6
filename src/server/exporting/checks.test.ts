import { exportLaid } from '@/core/dress/exportLaid';
import { EXPORT_FORMATS, type ExportFormat, writeScene } from '@/core/formats/exportFormats';
import type { ExportScene } from '@/core/formats/exportScene';
import { lay } from '@/core/lay/lay';
import { FIRST_MAPPING } from '@/core/mapping/schema';
import { laidSpec, oak, rectangle, wallMesh } from '@/core/testing/surfaces';
import { checkArea, checkByStandard } from './checks';
import { filesInMemory } from './exportFolder';

const mesh = wallMesh([rectangle(2000, 1000)]);
const laid = lay(
  {
    id: 'wall',
    patches: [{ faces: [0, 2] }],
    mapping: FIRST_MAPPING.flat,
    cuts: [],
    origin: [0, 0, 0],
    spec: laidSpec({ layout: { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false }, joint: 10 }),
    colour: null,
  },
  [mesh],
  { oak: oak() },
);
const made = exportLaid(laid);
const scene: ExportScene = {
  name: 'Wall',
  materials: [],
  parts: [
    {
      name: 'Wall',
      path: [],
      origin: [0, 0, 0],
      pivot: [0, 0, 0],
      surfaces: made.map(({ what, dressed }) => ({ name: what, dressed, material: '#804030' })),
    },
  ],
};
const [glb, gltf, obj] = EXPORT_FORMATS;
const written = async (format: ExportFormat, of: ExportScene) => filesInMemory(await writeScene(format, of, 'wall'));

describe('before a hand-over is offered', () => {
  test('everything of a surface is there, and nothing twice', () => {
    expect(() => checkArea('Wall', laid, made)).not.toThrow();
    expect(() => checkArea('Wall', laid, made.slice(1))).toThrow(/“Wall” has 2 m², but .* would be handed over/);
    expect(() => checkArea('Wall', laid, [...made, made[0]])).toThrow(/Nothing was kept/);
  });

  test.each([glb, gltf])('a sound $label passes the standard’s validator', async (format) => {
    await expect(checkByStandard(format, await written(format, scene))).resolves.toBeUndefined();
  });

  /** Normals without a direction, in the second of three parts. */
  const broken = (): ExportScene => {
    const surfaces = scene.parts[0].surfaces.map((s) => ({
      ...s,
      dressed: { ...s.dressed, normals: new Float32Array(s.dressed.normals.length) },
    }));
    return { ...scene, parts: [scene.parts[0], { ...scene.parts[0], surfaces }, scene.parts[0]] };
  };
  const said = /was not written: the standard’s validator finds \d+ errors?, first “.+” at \//;

  test('one with normals that have no direction fails, with what is wrong and where', async () => {
    await expect(checkByStandard(glb, await written(glb, broken()))).rejects.toThrow(said);
  });

  test.each([glb, gltf])('a large $label is checked and read in parts only', async (format) => {
    const three: ExportScene = { ...scene, parts: [0, 1, 2].map((n) => ({ ...scene.parts[0], name: `Wall ${n}` })) };
    const files = await written(format, three);
    const all = Object.values(files.sizes).reduce((a, b) => a + b);
    let most = 0;
    const watched = {
      ...files,
      read: (name: string, offset: number, length: number) => {
        most = Math.max(most, length);
        return files.read(name, offset, length);
      },
    };
    const shares: number[] = [];
    await checkByStandard(format, watched, (share) => shares.push(share), 0);
    // pieces and joints of each part
    expect(shares).toEqual([0, 1, 2, 3, 4, 5].map((n) => n / 6));
    expect(most).toBeLessThan(all / 3);
    // small ones go together, and what is wrong is found among them
    shares.length = 0;
    await checkByStandard(format, files, (share) => shares.push(share), all * 0.7);
    expect(shares).toEqual([0, 1 / 2]);
    await expect(checkByStandard(format, await written(format, broken()), () => {}, all * 0.7)).rejects.toThrow(said);
    await expect(checkByStandard(format, await written(format, broken()), () => {}, 0)).rejects.toThrow(said);
  });

  test('what is wrong beside the meshes is found in a large one, too', async () => {
    const files = await writeScene(gltf, scene, 'wall');
    const json = JSON.parse(new TextDecoder().decode(files['wall.gltf'])) as { nodes: { children?: number[] }[] };
    json.nodes[0].children = [0];
    files['wall.gltf'] = new TextEncoder().encode(JSON.stringify(json));
    await expect(checkByStandard(gltf, filesInMemory(files), () => {}, 0)).rejects.toThrow(/NODE|loop|child/i);
  });

  test('what no standard checks is not checked', async () => {
    await expect(checkByStandard(obj, filesInMemory({ 'wall.obj': new Uint8Array(3) }))).resolves.toBeUndefined();
  });
});
