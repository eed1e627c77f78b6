import { regionsAt } from '@/core/project/regions';
import { type Spec } from '@/core/specification/schema';
import { FIRST_MAPPING } from '@/core/mapping/schema';
import { useProject } from '../../project/projectStore';
import { sheetService, uncutRequest } from '../../project/sheetService';
import type { Laid } from '../useBench';

const DIRECTIONS: Record<'up' | 'down' | 'north' | 'east' | 'south' | 'west', readonly number[]> = {
  up: [0, 1, 0],
  down: [0, -1, 0],
  north: [0, 0, -1],
  east: [1, 0, 0],
  south: [0, 0, 1],
  west: [-1, 0, 0],
};
type Direction = keyof typeof DIRECTIONS;

/**
 * One picture thrown straight through several surfaces: the same flat frame and start for all, as wide as all of them
 * together, so that what is drawn on one goes on on the next.
 */
export async function throwPicture(laid: Laid[]): Promise<void> {
  const { project } = useProject.getState();
  if (!project || !laid.length) return;
  const facing = [0, 1, 2].map((c) => laid.reduce((sum, l) => sum + l.surface.normal[c] * l.surface.areaMm2, 0));
  const towards = (d: Direction) => DIRECTIONS[d].reduce((sum, v, c) => sum + v * facing[c], 0);
  const direction = (Object.keys(DIRECTIONS) as Direction[]).reduce((best, d) =>
    towards(d) > towards(best) ? d : best,
  );
  const mapping = { ...FIRST_MAPPING.flat, direction };
  const bounds = await Promise.all(
    laid.map(async ({ surface, spec }) => {
      const [region] = regionsAt(project, surface, (s) => (s.id === surface.id ? { ...spec, mapping } : s.spec));
      return (await sheetService().summary(uncutRequest(project, region))).bounds;
    }),
  );
  const [minX, minY] = [Math.min(...bounds.map((b) => b.minX)), Math.min(...bounds.map((b) => b.minY))];
  const widthMm = Math.max(...bounds.map((b) => b.maxX)) - minX;
  const { material: of } = laid[0];
  const own = { widthMm, heightMm: (widthMm * of.heightMm) / of.widthMm };
  const tidy = (v: number) => Math.round(v * 1e4) / 1e4;
  const specs = Object.fromEntries(
    laid.map(({ surface, spec }): [string, Spec] => [
      surface.id,
      {
        ...spec,
        material: of.id,
        mapping,
        repeat: { own, locked: true },
        // it is one picture, not pieces; what they were set to stays for another time
        ...(spec.pieces ? { pieces: { ...spec.pieces, layout: { kind: 'whole' as const } } } : {}),
        start: { datum: 'world', xMm: tidy(minX), yMm: tidy(minY) },
        direction: { turnDeg: 0, mirrorX: false, mirrorY: false },
      },
    ]),
  );
  useProject.getState().run([{ kind: 'setSpecs', specs }]);
}
