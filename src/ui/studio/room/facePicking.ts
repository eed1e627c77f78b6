import {
  type BufferGeometry,
  type Camera,
  Matrix4,
  type Mesh,
  type PerspectiveCamera,
  Raycaster,
  Vector2,
  Vector3,
} from 'three';

/** Finding the faces of a part on the screen; places are CSS pixels of the canvas. */

export interface PickableMesh {
  mesh: Mesh<BufferGeometry>;
  /** Whose faces it has. */
  parts: readonly string[];
  /** The face that a triangle is, and its part. */
  at(triangle: number): { part: string; face: number };
}

export interface FoundFaces {
  part: string;
  faces: number[];
}

/** Rays sent into a rectangle at most; more faces than that are looked for on a grid. */
const MOST_RAYS = 12_000;

const ray = new Raycaster();
ray.firstHitOnly = true;

function hitAt(meshes: PickableMesh[], camera: Camera, x: number, y: number, size: Vector2) {
  ray.setFromCamera(new Vector2((x / size.x) * 2 - 1, 1 - (y / size.y) * 2), camera);
  const hit = ray.intersectObjects(
    meshes.map((m) => m.mesh),
    false,
  )[0];
  if (!hit || hit.faceIndex === undefined || hit.faceIndex === null) return null;
  const found = meshes.find((m) => m.mesh === hit.object)!;
  return found.at(hit.faceIndex);
}

/** The faces within `radius` of a point that are seen there; all of the part under the point itself. */
export function facesNear(
  meshes: PickableMesh[],
  camera: Camera,
  at: [number, number],
  radius: number,
  size: Vector2,
): FoundFaces | null {
  const first = hitAt(meshes, camera, at[0], at[1], size);
  if (!first) return null;
  const own = meshes.filter((m) => m.parts.includes(first.part));
  const faces = new Set([first.face]);
  for (let ring = 1; ring <= 2 && radius > 0; ring++) {
    for (let k = 0; k < 8; k++) {
      const a = (k / 8) * 2 * Math.PI;
      const r = (radius * ring) / 2;
      const hit = hitAt(own, camera, at[0] + r * Math.cos(a), at[1] + r * Math.sin(a), size);
      if (hit?.part === first.part) faces.add(hit.face);
    }
  }
  return { part: first.part, faces: [...faces] };
}

/**
 * The faces of one part in a rectangle: those whose middle is seen in it, or, through, lies in it.
 * @param part null takes the part that shows most
 */
export function facesInRectangle(
  meshes: PickableMesh[],
  camera: PerspectiveCamera,
  from: [number, number],
  to: [number, number],
  size: Vector2,
  through: boolean,
  part: string | null,
): FoundFaces | null {
  const [x0, x1] = [Math.min(from[0], to[0]), Math.max(from[0], to[0])];
  const [y0, y1] = [Math.min(from[1], to[1]), Math.max(from[1], to[1])];
  const inside: { mesh: PickableMesh; triangle: number; x: number; y: number }[] = [];
  const toScreen = new Matrix4().multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse);
  const p = new Vector3();
  for (const m of meshes) {
    if (part && !m.parts.includes(part)) continue;
    const matrix = new Matrix4().multiplyMatrices(toScreen, m.mesh.matrixWorld);
    const position = m.mesh.geometry.getAttribute('position').array;
    const index = m.mesh.geometry.getIndex()!.array;
    for (let t = 0; t < index.length / 3; t++) {
      const [a, b, c] = [index[t * 3] * 3, index[t * 3 + 1] * 3, index[t * 3 + 2] * 3];
      p.set(
        (position[a] + position[b] + position[c]) / 3,
        (position[a + 1] + position[b + 1] + position[c + 1]) / 3,
        (position[a + 2] + position[b + 2] + position[c + 2]) / 3,
      ).applyMatrix4(matrix);
      if (p.z < -1 || p.z > 1) continue;
      const [x, y] = [((p.x + 1) / 2) * size.x, ((1 - p.y) / 2) * size.y];
      if (x >= x0 && x <= x1 && y >= y0 && y <= y1) inside.push({ mesh: m, triangle: t, x, y });
    }
  }
  const found = new Map<string, Set<number>>();
  const take = (of: string, face: number) => {
    if (!found.has(of)) found.set(of, new Set());
    found.get(of)!.add(face);
  };
  const mine = ({ part: of }: { part: string }) => !part || of === part;
  const own = (i: (typeof inside)[number]) => i.mesh.at(i.triangle);
  if (through) for (const { part: of, face } of inside.map(own).filter(mine)) take(of, face);
  else if (inside.length <= MOST_RAYS) {
    for (const i of inside) {
      const hit = hitAt(meshes, camera, i.x, i.y, size);
      const there = own(i);
      if (hit && mine(there) && hit.part === there.part && hit.face === there.face) take(hit.part, hit.face);
    }
  } else {
    const step = Math.max(1, Math.sqrt(((x1 - x0) * (y1 - y0)) / MOST_RAYS));
    for (let y = y0; y <= y1; y += step) {
      for (let x = x0; x <= x1; x += step) {
        const hit = hitAt(meshes, camera, x, y, size);
        if (hit && mine(hit)) take(hit.part, hit.face);
      }
    }
  }
  const [best] = [...found].sort((a, b) => b[1].size - a[1].size);
  return best ? { part: best[0], faces: [...best[1]] } : null;
}
