import path from 'node:path';
import { frozenCases } from './cases';
import { freezeSurface } from './freeze';
import { findChanged, type Lists, readFrozen, refreezing, writeFrozen } from './store';

const at = (name: string) => path.join(__dirname, `${name}.br`);

/** Geometry is frozen for one in so many cases, all kinds among them; pieces for all. */
const EVERY = 13;

test('what is laid is what was frozen', () => {
  const [pieces, geometry]: [Lists, Lists] = [new Map(), new Map()];
  frozenCases().forEach(({ name, project, mesh, surfaces }, n) => {
    for (const id of surfaces) {
      const withGeometry = n % EVERY === 0;
      const frozen = freezeSurface(project, project.surfaces[id], mesh, withGeometry);
      pieces.set(`${name}: ${id}`, frozen.pieces);
      if (!withGeometry) continue;
      geometry.set(`${name}: ${id} drawn`, frozen.drawn);
      geometry.set(`${name}: ${id} exported`, frozen.exported);
    }
  });
  if (refreezing) {
    writeFrozen(at('pieces'), pieces);
    writeFrozen(at('geometry'), geometry);
  }
  expect(findChanged(readFrozen(at('pieces')), pieces)).toEqual([]);
  expect(findChanged(readFrozen(at('geometry')), geometry)).toEqual([]);
});
