import { exportLaid } from '@/core/dress/exportLaid';
import { EXPORT_FORMATS } from '@/core/formats/exportFormats';
import type { ExportScene } from '@/core/formats/exportScene';
import { lay } from '@/core/lay/lay';
import { FIRST_MAPPING } from '@/core/mapping/schema';
import { laidSpec, oak, rectangle, wallMesh } from '@/core/testing/surfaces';
import { checkArea, checkByStandard } from './checks';

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

describe('before a hand-over is offered', () => {
  test('everything of a surface is there, and nothing twice', () => {
    expect(() => checkArea('Wall', laid, made)).not.toThrow();
    expect(() => checkArea('Wall', laid, made.slice(1))).toThrow(/“Wall” has 2 m², but .* would be handed over/);
    expect(() => checkArea('Wall', laid, [...made, made[0]])).toThrow(/Nothing was kept/);
  });

  test.each([glb, gltf])('a sound $label passes the standard’s validator', async (format) => {
    await expect(checkByStandard(format, await format.write(scene, 'wall'))).resolves.toBeUndefined();
  });

  test('one with normals that have no direction fails, with what is wrong and where', async () => {
    const broken: ExportScene = JSON.parse(JSON.stringify({ ...scene, parts: [] })) as ExportScene;
    const surfaces = scene.parts[0].surfaces.map((s) => ({
      ...s,
      dressed: { ...s.dressed, normals: new Float32Array(s.dressed.normals.length) },
    }));
    broken.parts = [{ ...scene.parts[0], surfaces }];
    await expect(checkByStandard(glb, await glb.write(broken, 'wall'))).rejects.toThrow(
      /GLB was not written: the standard’s validator finds \d+ errors?, first “.+” at \//,
    );
  });

  test('what no standard checks is not checked', async () => {
    await expect(checkByStandard(obj, { 'wall.obj': new Uint8Array(3) })).resolves.toBeUndefined();
  });
});
