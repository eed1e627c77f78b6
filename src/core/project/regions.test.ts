import { soldier } from '../layout/brick/soldier';
import type { Spec } from '../specification/schema';
import fc from 'fast-check';
import { laidSpec, oak } from '../testing/surfaces';
import { part, surface as bareSurface } from '../testing/project';
import type { ZoneShape } from '../zones/schema';
import { applyCommand, type Command } from './commands';
import { allRegions, BESIDE, regionsOf, zonesOn } from './regions';
import { emptyProject, type Project, type Surface } from './schema';

const bricks = laidSpec({
  layout: { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false },
  joint: 10,
});
const surface = (id: string, rest: Partial<Surface> = {}): Surface => bareSurface(id, { spec: bricks, ...rest });
const zone = (id: string, rank: number, shape: ZoneShape) =>
  surface(id, { faces: [], zone: { of: 'wall', rank, shape } });
const field: ZoneShape = { kind: 'rectangle', xMm: 0, yMm: 0, widthMm: 500, heightMm: 400 };

function project(...surfaces: Surface[]): Project {
  return {
    ...emptyProject('p', 'P'),
    parts: { part: part() },
    surfaces: Object.fromEntries(surfaces.map((s) => [s.id, s])),
    materials: { oak: oak(), lime: oak({ id: 'lime', name: 'Lime' }) },
  };
}
const after = (p: Project, command: Command) => applyCommand(p, command).project;
const shuffled = (s: Surface) => ({ ...s.spec!, variation: { ...s.spec!.variation!, shuffle: 99 } });

describe('regions of a project', () => {
  test('are the same objects while nothing that decides them has changed', () => {
    const p = project(surface('wall'), surface('floor'), zone('niche', 0, field));
    const before = allRegions(p);
    expect(allRegions(p)).toHaveLength(3);
    allRegions(p).forEach((r, i) => expect(r).toBe(before[i]));
    // what concerns neither of them leaves them alone
    const renamed = after(p, { kind: 'setProject', name: 'Other', northDeg: 12 });
    allRegions(renamed).forEach((r, i) => expect(r).toBe(before[i]));
  });

  test('a change makes anew what it concerns, and nothing else', () => {
    const p = project(surface('wall'), surface('floor'), zone('niche', 0, field));
    const [wall, floor, niche] = allRegions(p);
    const floorChanged = after(p, { kind: 'setSpecs', specs: { floor: shuffled(p.surfaces.floor) } });
    expect(regionsOf(floorChanged, floorChanged.surfaces.wall)[0]).toBe(wall);
    expect(regionsOf(floorChanged, floorChanged.surfaces.floor)[0]).not.toBe(floor);
    // a zone cuts its surface, and is laid on its sheet: both follow
    const zoneChanged = after(p, { kind: 'setZone', id: 'niche', shape: { ...field, widthMm: 600 }, areaMm2: 1 });
    expect(regionsOf(zoneChanged, zoneChanged.surfaces.wall)[0]).not.toBe(wall);
    expect(regionsOf(zoneChanged, zoneChanged.surfaces.niche)[0]).not.toBe(niche);
    expect(regionsOf(zoneChanged, zoneChanged.surfaces.floor)[0]).toBe(floor);
    // so does another version of the material
    const newer = after(p, { kind: 'useMaterial', material: oak({ version: 2, widthMm: 1000 }) });
    expect(regionsOf(newer, newer.surfaces.floor)[0]).not.toBe(floor);
  });

  test('after any changes the list is what it would be if it were found from nothing', () => {
    const other = ({ id }: Surface, shuffle: number) => ({
      [id]: { ...bricks, variation: { ...bricks.variation!, shuffle } },
    });
    const command = fc.oneof(
      fc.record({ what: fc.constant('spec'), id: fc.nat(4), shuffle: fc.nat(3) }),
      fc.record({ what: fc.constant('zone'), id: fc.nat(4), shuffle: fc.nat(3) }),
      fc.record({
        what: fc.constantFrom('lift', 'hide', 'new', 'material', 'lock'),
        id: fc.nat(4),
        shuffle: fc.nat(3),
      }),
    );
    fc.assert(
      fc.property(fc.array(command, { maxLength: 8 }), (steps) => {
        let p = project(surface('wall'), surface('floor'), zone('niche', 0, field), zone('rug', 1, field));
        allRegions(p);
        for (const { what, id, shuffle } of steps) {
          const all = Object.values(p.surfaces);
          const s = all[id % all.length];
          if (what === 'spec') p = after(p, { kind: 'setSpecs', specs: other(s, shuffle) });
          else if (what === 'lift') p = after(p, { kind: 'setSpecs', specs: { [s.id]: null } });
          else if (what === 'hide') p = after(p, { kind: 'setSurfaces', ids: [s.id], hidden: true });
          else if (what === 'material') p = after(p, { kind: 'useMaterial', material: oak({ version: 2 + shuffle }) });
          else if (what === 'lock') p = after(p, { kind: 'setParts', ids: ['part'], locked: true });
          else if (what === 'new')
            p = { ...p, surfaces: { ...p.surfaces, ...project(zone('new', 2, field)).surfaces } };
          else if (s.zone)
            p = after(p, { kind: 'setZone', id: s.id, shape: { ...field, widthMm: 100 + shuffle }, areaMm2: 1 });
          const listed = allRegions(p);
          // a surface's regions know their makings: asked one by one they come from nothing else
          expect(listed).toEqual(Object.values(p.surfaces).flatMap((one) => regionsOf(p, one)));
          listed.forEach((r) => expect(r.surface).toBe(p.surfaces[r.surface.id]));
        }
      }),
    );
  });

  test('a spec that is only shown makes a region of its own', () => {
    const p = project(surface('wall'));
    const [stored] = regionsOf(p, p.surfaces.wall);
    const spec = shuffled(p.surfaces.wall);
    const [shown] = regionsOf(p, p.surfaces.wall, () => spec);
    expect(shown.spec).toBe(spec);
    expect(regionsOf(p, p.surfaces.wall, () => spec)[0]).toBe(shown);
    expect(regionsOf(p, p.surfaces.wall)[0].spec).toBe(stored.spec);
  });

  test('zones lie over their surface in the order of their ranks', () => {
    const p = project(surface('wall'), zone('b', 2, field), zone('a', 1, field), zone('c', 1, field));
    expect(zonesOn(p, 'wall').map((z) => z.id)).toEqual(['a', 'c', 'b']);
    expect(zonesOn(p, 'wall')).toBe(zonesOn(p, 'wall'));
    expect(zonesOn(p, 'b')).toEqual([]);
    const cuts = (id: string) => regionsOf(p, p.surfaces[id])[0].cuts.map((c) => 'keep' in c && c.keep);
    expect(cuts('wall')).toEqual(['outside', 'outside', 'outside']);
    expect(cuts('a')).toEqual(['outside', 'outside', 'inside']);
    expect(cuts('b')).toEqual(['inside']);
  });

  test('a border of so many courses is as wide as they and their joints', () => {
    const border = { kind: 'border', widthMm: 1, courses: 3, edges: null, corners: 'butted' } as const;
    const p = project(surface('wall'), zone('edge', 0, border));
    const [cut] = regionsOf(p, p.surfaces.edge)[0].cuts;
    expect(cut).toMatchObject({ kind: 'zone', shape: { widthMm: 3 * (65 + 10) } });
    const standing = { ...p.surfaces.edge.spec!, direction: { turnDeg: 90, mirrorX: false, mirrorY: false } };
    const turned = after(p, { kind: 'setSpecs', specs: { edge: standing } });
    expect(regionsOf(turned, turned.surfaces.edge)[0].cuts[0]).toMatchObject({ shape: { widthMm: 3 * (215 + 10) } });
  });

  test('a band of so many courses at a height is as high as they: soldiers stand a brick’s length', () => {
    const band = { kind: 'height', heightMm: 900, from: 'foot', levelMm: 0, side: 'above', courses: 2 } as const;
    const p = project(surface('wall'), zone('belt', 0, band));
    expect(regionsOf(p, p.surfaces.belt)[0].cuts[0]).toMatchObject({ shape: { bandMm: 2 * (65 + 10) } });
    const own = p.surfaces.belt.spec!;
    const soldiers = { ...own, pieces: { ...own.pieces!, layout: soldier.preset.spec } };
    const stood = after(p, { kind: 'setSpecs', specs: { belt: soldiers } });
    expect(regionsOf(stood, stood.surfaces.belt)[0].cuts[0]).toMatchObject({ shape: { bandMm: 2 * (215 + 10) } });
    expect(regionsOf(stood, stood.surfaces.wall)[0].cuts[0]).toMatchObject({ shape: { bandMm: 2 * (215 + 10) } });
  });

  test('a picture laid once is a region, and so is what lies beside it', () => {
    const once = { fitted: false, rest: { kind: 'material' as const, material: 'lime' } };
    const spec = { ...surface('x').spec!, repeat: { own: { widthMm: 640, heightMm: 840 }, locked: true, once } };
    const p = project(surface('wall', { spec }));
    const [picture, beside] = regionsOf(p, p.surfaces.wall);
    expect([picture.id, beside.id]).toEqual(['wall', `wall${BESIDE}`]);
    expect(beside.spec!.material).toBe('lime');
    expect(picture.cuts.at(-1)).toMatchObject({ kind: 'once', keep: 'inside', setting: { size: { widthMm: 640 } } });
    expect(beside.cuts.at(-1)).toMatchObject({ kind: 'once', keep: 'outside' });
    // of a spec only what sets it out takes part in the cut
    expect(Object.keys((picture.cuts.at(-1) as { setting: object }).setting)).not.toContain('material');
  });

  test('a surface whose surface is gone has none; one without a material is bare', () => {
    const p = project(surface('wall'), zone('niche', 0, field));
    const orphan = { ...p, surfaces: { niche: p.surfaces.niche } };
    expect(regionsOf(orphan, orphan.surfaces.niche)).toEqual([]);
    const unknown = project(surface('wall', { spec: { ...surface('x').spec!, material: 'gone' } }));
    expect(regionsOf(unknown, unknown.surfaces.wall)).toHaveLength(1);
    const bare = project(surface('wall', { spec: null }));
    const [region] = regionsOf(bare, bare.surfaces.wall);
    expect([region.spec, region.colour, region.cuts]).toEqual([null, null, []]);
  });

  test('what lies below a picture goes on beside it; its level moves with the project’s', () => {
    const { repeat, ...below } = surface('x').spec!;
    const level = { id: 'l', heightMm: 100 };
    const rest = {
      kind: 'below' as const,
      spec: {
        ...below,
        repeat: { own: repeat.own, locked: true },
        start: { ...below.start, datum: 'level' as const, level },
      },
    };
    const mapping = { kind: 'box' as const, direction: 'auto' as const } as unknown as Spec['mapping'];
    const spec = { ...surface('x').spec!, mapping, repeat: { own: null, locked: true, once: { fitted: false, rest } } };
    const p = { ...project(surface('wall', { spec })), levels: { l: { id: 'l', name: 'Courses', heightMm: 100 } } };
    const [, beside] = regionsOf(p, p.surfaces.wall);
    expect(beside.spec).toMatchObject({ pieces: below.pieces, mapping, start: { level } });
    const moved = after(p, { kind: 'setLevel', level: { id: 'l', name: 'Courses', heightMm: 250 } });
    expect(regionsOf(moved, moved.surfaces.wall)[1].spec!.start.level!.heightMm).toBe(250);
    // it is still set out from the level
    expect(() => after(p, { kind: 'removeLevel', id: 'l' })).toThrow(/set out from this level/);
  });

  test('what lies beside a picture is a material, a colour or bare', () => {
    const beside = (
      rest: { kind: 'material'; material: string } | { kind: 'colour'; colour: string } | { kind: 'bare' },
    ) => {
      const once = { fitted: true, rest };
      const spec = { ...surface('x').spec!, repeat: { own: null, locked: true, once } };
      const p = project(surface('wall', { spec }));
      return regionsOf(p, p.surfaces.wall)[1];
    };
    expect(beside({ kind: 'colour', colour: '#aabbcc' })).toMatchObject({ spec: null, colour: '#aabbcc' });
    expect(beside({ kind: 'bare' })).toMatchObject({ spec: null, colour: null });
    expect(beside({ kind: 'material', material: 'gone' })).toMatchObject({ spec: null, colour: null });
    const laid = beside({ kind: 'material', material: 'lime' });
    expect([laid.spec!.material, laid.colour]).toEqual(['lime', null]);
    expect(laid.spec!.mapping).toEqual(surface('x').spec!.mapping);
  });

  test('another material beside a picture makes its regions anew', () => {
    const once = { fitted: true, rest: { kind: 'material' as const, material: 'lime' } };
    const spec = { ...surface('x').spec!, repeat: { own: null, locked: true, once } };
    const p = project(surface('wall', { spec }));
    const before = regionsOf(p, p.surfaces.wall);
    const newer = after(p, { kind: 'useMaterial', material: oak({ id: 'lime', version: 2, widthMm: 7 }) });
    expect(regionsOf(newer, newer.surfaces.wall)).not.toBe(before);
  });

  test('faces that are turned round go with the patches', () => {
    const p = project(surface('wall'));
    expect(regionsOf(p, p.surfaces.wall)[0].patches).toEqual([{ faces: [0, 2] }]);
    const flipped = after(p, { kind: 'flipFaces', part: 'part', faces: [1, 1] });
    expect(regionsOf(flipped, flipped.surfaces.wall)[0].patches).toEqual([{ faces: [0, 2], flipped: [1, 1] }]);
  });

  test('a zone lies on its surface’s sheet: that one’s mapping lays it flat', () => {
    const mapping = { kind: 'box' } as unknown as NonNullable<Surface['spec']>['mapping'];
    const p = project(surface('wall', { spec: { ...surface('x').spec!, mapping } }), zone('niche', 0, field));
    const [region] = regionsOf(p, p.surfaces.niche);
    expect(region.mapping).toEqual(mapping);
    expect(region.spec!.mapping).toEqual(mapping);
    expect(region.patches).toEqual([{ faces: [0, 2] }]);
  });

  describe('at an arris', () => {
    const at = (arris: 'fold' | 'break' | 'return' | undefined, turnDeg = 0, kind = 'stretcher') => {
      const own = surface('x').spec!;
      const layout = kind === 'whole' ? ({ kind: 'whole' } as const) : own.pieces!.layout;
      const spec = {
        ...own,
        direction: { turnDeg, mirrorX: false, mirrorY: false },
        pieces: { ...own.pieces!, layout, ...(arris ? { arris } : {}) },
      };
      const p = project(surface('wall', { spec }));
      return regionsOf(p, p.surfaces.wall)[0].cuts;
    };

    test('pieces break or return by their course’s pitch', () => {
      const ways = ['break', 'return'] as const;
      for (const how of ways) expect(at(how)).toMatchObject([{ kind: 'arris', how }]);
      const [cut] = at('break') as { pitchMm: number }[];
      expect(cut.pitchMm).toBeGreaterThan(0);
    });

    test('or fold over it, where nothing else is asked or can be done', () => {
      for (const cuts of [at(undefined), at('fold'), at('break', 45), at('break', 90), at('break', 0, 'whole')])
        expect(cuts).toEqual([]);
      expect(at('break', 180)).toHaveLength(1);
      expect(at('break', -180)).toHaveLength(1);
    });
  });

  test('lines of a band become shares of the strip it covers', () => {
    const tie = (from: number, to: number, lines: number[], pieces = false) => {
      const own = surface('x').spec!;
      const spec = {
        ...own,
        pieces: pieces ? own.pieces : undefined,
        repeat: { own: null, locked: true, band: { from, to, lines } },
      };
      const p = project(surface('wall', { spec }));
      return regionsOf(p, p.surfaces.wall)[0].cuts;
    };
    expect(tie(0.2, 0.6, [0.1, 0.3, 0.5, 0.7])).toEqual([
      { kind: 'tie', lines: [expect.closeTo(0.25, 9), expect.closeTo(0.75, 9)] },
    ]);
    // whichever way round the band is given
    expect(tie(0.6, 0.2, [0.3])).toEqual([{ kind: 'tie', lines: [expect.closeTo(0.25, 9)] }]);
    expect(tie(0.2, 0.6, [0.2, 0.6])).toEqual([]);
    expect(tie(0.2, 0.6, [])).toEqual([]);
    expect(tie(0.2, 0.6, [0.3], true)).toEqual([]);
  });

  test('a border without courses keeps its width; at least a millimetre', () => {
    const border = { kind: 'border', widthMm: 123, courses: null, edges: null, corners: 'butted' } as const;
    const p = project(surface('wall'), zone('edge', 0, border));
    expect(regionsOf(p, p.surfaces.edge)[0].cuts[0]).toMatchObject({ shape: { widthMm: 123 } });
    const counted = { ...border, courses: 2 };
    const bare = project(surface('wall'), { ...zone('edge', 0, counted), spec: null });
    expect(regionsOf(bare, bare.surfaces.edge)[0].cuts[0]).toMatchObject({ shape: { widthMm: 123 } });
  });
});
