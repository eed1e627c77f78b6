import { BufferAttribute, BufferGeometry, Mesh, MeshBasicMaterial, PerspectiveCamera, Vector2 } from 'three';
import { acceleratedRaycast } from 'three-mesh-bvh';
import type { Entry } from '@/ui/studio/room/entry';
import { Marks } from '@/ui/studio/room/Marks';
import { Picker } from '@/ui/studio/room/Picker';
import { type Rows, time } from './measure';

const SURFACES = 2000;
/** What one move of the pointer may cost the main thread, ms. */
const ALLOWED = 4;

/** Rooms of ten walls in a row, each wall of eighteen triangles, as the room keeps them. */
function makeEntries(): Map<string, Entry> {
  const material = new MeshBasicMaterial();
  const out = new Map<string, Entry>();
  for (let i = 0; i < SURFACES; i++) {
    const [x, z] = [(i % 50) * 4, Math.floor(i / 50) * 4];
    const positions: number[] = [];
    const indices: number[] = [];
    for (let k = 0; k < 9; k++) {
      const at = positions.length / 3;
      positions.push(x + k * 0.4, 0, z, x + (k + 1) * 0.4, 0, z, x + (k + 1) * 0.4, 2.6, z, x + k * 0.4, 2.6, z);
      indices.push(at, at + 1, at + 2, at, at + 2, at + 3);
    }
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(Float32Array.from(positions), 3));
    geometry.setIndex(new BufferAttribute(Uint32Array.from(indices), 1));
    const mesh = new Mesh(geometry, material);
    mesh.raycast = acceleratedRaycast;
    mesh.updateMatrixWorld();
    const id = `surface-${i}`;
    geometry.computeBoundingSphere();
    out.set(id, {
      region: {
        id,
        surface: { id },
        part: { id: 'part' },
        parts: [{ id: 'part' }],
        patches: [{ faces: [0, 18] }],
        members: [{ id, part: 'part' }],
      },
      mesh,
      sphere: geometry.boundingSphere!.clone(),
      border: Float32Array.from(positions.slice(0, 24)),
      source: Uint32Array.from({ length: 18 }, (_, t) => t),
    } as unknown as Entry);
  }
  return out;
}

/** The handlers of hovering and picking, drawing left out, over 2000 surfaces. */
export async function benchHandlers(rows: Rows): Promise<void> {
  const entries = makeEntries();
  const camera = new PerspectiveCamera(50, 1000 / 600, 0.02, 2000);
  camera.position.set(100, 6, 170);
  camera.lookAt(100, 1, 80);
  camera.updateMatrixWorld();
  const picker = new Picker(
    camera,
    () => new Vector2(1000, 600),
    () => [...entries.values()].filter((e) => e.mesh.visible),
  );
  const marks = new Marks();
  const MOVES = 200;
  const at = (n: number): [number, number] => [(n * 37) % 1000, 200 + ((n * 53) % 380)];
  let found = 0;
  const pick = () => {
    for (let n = 0; n < MOVES; n++) if (picker.pick(...at(n))) found++;
  };
  const colours = { selected: '#a83a2e', hovered: '#4a6db5' };
  const hover = () => {
    for (let n = 0; n < MOVES; n++) {
      const hovered = picker.pick(...at(n))?.surface ?? '';
      marks.set(entries, {
        selected: ['surface-7', 'surface-8'],
        hovered: [hovered],
        faces: null,
        edges: false,
        clean: false,
        colours,
      });
    }
  };
  for (const [name, work] of [
    ['pick', pick],
    ['hover', hover],
  ] as const) {
    work();
    const each = (await time(work)) / MOVES;
    rows.push({
      name: `${name} over ${SURFACES} surfaces, main thread without drawing`,
      value: each,
      unit: 'ms',
      against: `${ALLOWED} ms`,
      ratio: each / ALLOWED,
      budget: 1,
    });
  }
  if (!found) throw new Error('nothing was picked; the camera looks past the walls');
}
