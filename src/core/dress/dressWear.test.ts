import { rectangle, wallMesh, wallSheet } from '../testing/surfaces';
import { bakeWear } from '../wear/bake';
import { wearKindOf } from '../wear/registry';
import { dressWear, SKIN_MM } from './dressWear';

test('a skin lies before its surface, with the pictures over all of it once', () => {
  const sheet = wallSheet(wallMesh([rectangle(3000, 2000)]));
  const layer = { ...wearKindOf({ kind: 'dirt' }).first, reliefMm: 1 };
  const sources = { surroundings: null, northDeg: 0, pictures: {} };
  const baked = bakeWear(sheet, { layers: [layer], marks: [] }, sources)!;
  const { positions, normals, uvs, tangents, indices } = dressWear({ sheet }, baked);
  expect(indices).toHaveLength(6);
  expect(tangents.length).toBeGreaterThan(0);
  const { bounds, width, height, pixelMm } = baked;
  for (let v = 0; v < positions.length / 3; v++) {
    expect(positions[v * 3 + 2]).toBeCloseTo(SKIN_MM * normals[v * 3 + 2], 4);
    const [x, y] = [positions[v * 3], positions[v * 3 + 1]];
    // but for whole repeats, which no picture shows
    const [u, w] = [(x - bounds.minX) / (width * pixelMm), (y - bounds.minY) / (height * pixelMm)];
    expect(Math.abs(uvs[v * 2] - u - Math.round(uvs[v * 2] - u))).toBeLessThan(1e-5);
    expect(Math.abs(uvs[v * 2 + 1] - w - Math.round(uvs[v * 2 + 1] - w))).toBeLessThan(1e-5);
    // nothing is read at the pictures' own edge, where they would begin anew
    for (const share of [u, w]) {
      expect(share).toBeGreaterThan(0.5 / Math.max(width, height));
      expect(share).toBeLessThan(1 - 0.5 / Math.max(width, height));
    }
  }
});
