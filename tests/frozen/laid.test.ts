import { listMaterials } from '@/core/count/materials';
import { drawPieces } from '@/core/draw/pieces';
import { dressPieces } from '@/core/dress/dressPieces';
import { exportLaid } from '@/core/dress/exportLaid';
import { holdsPoint } from '@/core/geometry/loop';
import { edgeOnArea } from '@/core/lay/edgeOn';
import { evaluateAt } from '@/core/lay/evaluate';
import { lay } from '@/core/lay/lay';
import { areaOfTriangles } from '@/core/mesh/area';
import { regionsOf } from '@/core/project/regions';
import { type FrozenCase, frozenCases } from './cases';

/** What must hold of every layout × mapping × way at an arris × zone, whatever it is laid with. */

const regionsOfCase = ({ project, mesh, surfaces }: FrozenCase) =>
  surfaces.flatMap((id) => regionsOf(project, project.surfaces[id]).map((r) => lay(r, [mesh], project.materials)));

/** One in so many, a prime, so that all kinds meet all others somewhere. */
const sampled = (every: number, from = 0) => frozenCases().filter((_, n) => n % every === from);
const sum = (list: number[]) => list.reduce((a, b) => a + b, 0);

test('each piece is counted once, and together with their joints they are the sheet', () => {
  const faults: string[] = [];
  for (const one of sampled(11, 1)) {
    for (const { sheet, pieces, arrangement, region } of regionsOfCase(one)) {
      if (!arrangement || !sheet.faces.length) continue;
      const keys = pieces.map((p) => `${p.course},${p.index}`);
      if (new Set(keys).size !== keys.length) faults.push(`${one.name} ${region.id}: a piece twice`);
      // charts of a ball or of wild coordinates may lie over one another; areas then are those of the faces
      const cells = sum(pieces.map((p) => p.cellArea));
      const overlapping = /sphere|own/.test(one.name);
      if (!overlapping && cells > sheet.area * 1.001)
        faults.push(`${one.name} ${region.id}: ${cells} of ${sheet.area}`);
      for (const p of pieces) if (p.area > p.cellArea * 1.0001 + 1) faults.push(`${one.name}: a piece beyond its cell`);
    }
  }
  expect(faults).toEqual([]);
});

test('what is drawn and what is handed over cover exactly the faces of the region', () => {
  const faults: string[] = [];
  for (const one of sampled(17, 2)) {
    for (const laid of regionsOfCase(one)) {
      const { sheet, arrangement, region } = laid;
      if (!sheet.faces.length) continue;
      const handed = sum(exportLaid(laid).map(({ dressed }) => areaOfTriangles(dressed)));
      const off = Math.abs(handed - sheet.trueArea);
      if (off > sheet.trueArea * 1e-4 + 5)
        faults.push(`${one.name} ${region.id}: handed over ${handed} of ${sheet.trueArea}`);
      if (!arrangement) continue;
      const drawn = sum(dressPieces(sheet, arrangement).map((b) => areaOfTriangles(b))) + edgeOnArea(sheet);
      if (Math.abs(drawn - sheet.trueArea) > sheet.trueArea * 1e-4 + 5)
        faults.push(`${one.name} ${region.id}: drawn ${drawn}`);
    }
  }
  expect(faults).toEqual([]);
});

test('the piece at a point is the one whose outline holds it, and shows there what the piece shows', () => {
  const faults: string[] = [];
  let looked = 0;
  for (const one of sampled(19, 5)) {
    for (const { pieces, arrangement, region } of regionsOfCase(one)) {
      if (!arrangement || region.id !== 'base') continue;
      for (const p of pieces) {
        if (!p.whole || !holdsPoint(p.outline, p.middle)) continue;
        const found = evaluateAt(arrangement, p.middle)!;
        looked++;
        const same =
          found.course === p.course && found.index === p.index && found.material === p.material && found.share === 1;
        if (!same) faults.push(`${one.name}: ${p.course},${p.index} is ${found.course},${found.index}`);
        if (Math.abs(found.u - p.appearance.u) > 1e-6 || Math.abs(found.v - p.appearance.v) > 1e-6) {
          faults.push(`${one.name}: another place in the print`);
        }
      }
    }
  }
  expect(faults).toEqual([]);
  expect(looked).toBeGreaterThan(150);
});

test('materials laid add up to the area of what is laid, whatever the mix', () => {
  for (const one of sampled(23, 4)) {
    for (const laid of regionsOfCase(one)) {
      const rows = listMaterials(laid);
      if (!laid.sheet.faces.length) continue;
      expect(sum(rows.map((r) => r.areaMm2)) / laid.sheet.trueArea).toBeCloseTo(1, 6);
      expect(new Set(rows.map((r) => `${r.material} ${r.widthMm} ${r.heightMm}`)).size).toBeLessThanOrEqual(
        rows.length,
      );
    }
  }
});

test('in a window only what is seen is drawn, in its place, hatched where it is cut', () => {
  const one = frozenCases().find((c) => c.name === 'stretcher flat fold none')!;
  const [laid] = regionsOfCase(one);
  const { bounds } = laid.sheet;
  const window = {
    x: (bounds.minX + bounds.maxX) / 2,
    y: (bounds.minY + bounds.maxY) / 2,
    scale: 0.5,
    width: Math.ceil((bounds.maxX - bounds.minX) / 2),
    height: Math.ceil((bounds.maxY - bounds.minY) / 2),
  };
  const all = drawPieces(laid, window, [{ width: 512, height: 256 }]);
  expect(all.pieces).toHaveLength(laid.pieces.length);
  all.pieces.forEach((drawn, i) => {
    expect(drawn.hatched).toBe(!laid.pieces[i].whole);
    const [[x, y]] = drawn.outline[0];
    const [[u, v]] = laid.pieces[i].outline[0];
    expect([x, y]).toEqual([(u - window.x) / 2 + window.width / 2, window.height / 2 - (v - window.y) / 2]);
  });
  const corner = drawPieces(laid, { ...window, x: bounds.minX, y: bounds.minY, width: 60, height: 60 }, [null]);
  expect(corner.pieces.length).toBeLessThan(all.pieces.length);
  expect(corner.pieces.length).toBeGreaterThan(0);
  expect(corner.pieces.every((p) => p.picture === null)).toBe(true);
  // from far away pictures are plain colours
  expect(drawPieces(laid, { ...window, scale: 0.01 }, [{ width: 512, height: 256 }]).pieces[0].picture).toBeNull();
});
