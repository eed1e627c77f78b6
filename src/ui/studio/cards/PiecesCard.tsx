'use client';

import { isLaid, LAYOUTS, type LaidKind, type LaidSpec } from '@/core/layout/registry';
import { defaultJoint, type JointSpec, type LayoutSpec, noMix, type PiecesSpec } from '@/core/layout/schema';
import type { Layout } from '@/core/layout/types';
import { goAround } from '@/core/setout/around';
import { aroundOf } from '@/core/mapping/schema';
import { formatLength } from '@/core/units/length';
import { plainVariation } from '@/core/variation/schema';
import { Select } from '../../shared/fields';
import { SizeField } from '../../shared/SizeField';
import { MIXED, ValueField } from '../../shared/ValueField';
import { Card } from '../Card';
import { BondDrawing } from '../pieces/BondDrawing';
import { JointFields } from '../pieces/JointFields';
import { LayoutFields } from '../pieces/LayoutFields';
import { MixFields } from '../pieces/MixFields';
import { type Laid, shared, useBench } from '../useBench';
import { useSheet } from '../useSheet';

const KINDS: [LayoutSpec['kind'], string][] = [
  ['whole', 'Whole picture'],
  ...(['planks', 'herringbone', 'stretcher', 'flemish', 'grid', 'hexagon'] as LaidKind[]).map(
    (k): [LaidKind, string] => [k, LAYOUTS[k].label],
  ),
  ['asModelled', 'As modelled'],
];

const layoutOf = (kind: LaidKind) => LAYOUTS[kind] as Layout<LaidSpec>;

/** How pieces are arranged, their size, and what lies between them. */
export function PiecesCard() {
  const { laid, edit, unit } = useBench();
  const none = !laid.length;
  const kind = none ? null : shared(laid, (l) => l.spec.pieces?.layout.kind ?? 'whole');
  const first = laid[0];
  const pieces = first?.spec.pieces;
  const layout = pieces?.layout;
  const all = !none && kind !== MIXED;

  const set = (change: (pieces: PiecesSpec, l: Laid) => PiecesSpec, gesture?: string) =>
    edit((l) => (l.spec.pieces ? { ...l.spec, pieces: change(l.spec.pieces, l) } : l.spec), gesture);

  function become(next: LayoutSpec['kind']) {
    edit((l) => {
      const now = l.spec.pieces;
      const joint: JointSpec = isLaidKind(next) ? layoutOf(next).preset.joint : (now?.joint ?? defaultJoint(0));
      const spec: LayoutSpec = isLaidKind(next) ? layoutOf(next).preset.spec : { kind: next };
      // a colour or material chosen for joints stays with the next layout
      const kept = now && now.layout.kind !== 'whole' ? { ...joint, material: now.joint.material } : joint;
      return {
        ...l.spec,
        pieces: { layout: spec, joint: kept, mix: now?.mix ?? noMix(), ...(now?.arris ? { arris: now.arris } : {}) },
        variation: l.spec.variation ?? plainVariation(),
      };
    });
  }
  const setLayout = (spec: LaidSpec, gesture?: string) => set((p) => ({ ...p, layout: spec }), gesture);
  const shownLayout = layout && isLaid(layout) ? layout : null;
  const def = shownLayout ? layoutOf(shownLayout.kind) : null;
  const sheet = useSheet(first?.spec && aroundOf(first.spec.mapping) ? first.surface.id : null)?.sheet ?? null;
  const fitted = sheet && first ? (goAround(first.spec, sheet.ring)?.layout ?? null) : null;
  const joint = all && shownLayout ? shared(laid, (l) => l.spec.pieces?.joint.acrossMm ?? 0) : null;

  return (
    <Card
      id="pieces"
      share={1.3}
      title="Pieces"
      more={
        pieces && all && layout?.kind !== 'whole' ? (
          <div className="grid w-[380px] grid-cols-2 gap-x-2 gap-y-1.5">
            {shownLayout && <LayoutFields spec={shownLayout} unit={unit} onChange={setLayout} />}
            {shownLayout && def?.pitch?.(shownLayout, pieces.joint) && (
              <Select
                label="At an arris they"
                value={pieces.arris ?? 'fold'}
                options={[
                  ['fold', 'fold over it'],
                  ['break', 'break, and begin anew'],
                  ['return', 'return, as masons do'],
                ]}
                onChange={(v) => set((p) => ({ ...p, arris: v as NonNullable<PiecesSpec['arris']> }))}
              />
            )}
            <JointFields
              joint={pieces.joint}
              unit={unit}
              plain={!shownLayout}
              onChange={(j, g) => set((p) => ({ ...p, joint: j }), g)}
            />
            <MixFields
              mix={pieces.mix}
              main={first.spec.material}
              roles={def?.roles ?? ['body']}
              onChange={(mix, materials, g) =>
                edit((l) => ({ ...l.spec, pieces: { ...l.spec.pieces!, mix } }), g, materials)
              }
            />
          </div>
        ) : undefined
      }
    >
      <div className={shownLayout && all ? 'grid grid-cols-[1fr_58px] gap-1.5' : ''}>
        <div className="min-w-0 space-y-1">
          <Select
            label="Layout"
            hideLabel
            value={kind === MIXED ? '' : (kind ?? 'whole')}
            disabled={none}
            options={kind === MIXED ? [['', 'mixed'], ...KINDS] : KINDS}
            onChange={(v) => v && become(v as LayoutSpec['kind'])}
          />
          {def && shownLayout && all && (
            <Select
              label="Format"
              hideLabel
              value={formatOf(def, shownLayout)}
              options={[['', 'Own format'], ...def.formats.map((f, i): [string, string] => [String(i), f.label])]}
              onChange={(v) => {
                const format = def.formats[Number(v)];
                if (v !== '' && format)
                  set((p) => ({
                    ...p,
                    layout: format.spec,
                    joint: { ...p.joint, ...def.preset.joint, material: p.joint.material, ...format.joint },
                  }));
              }}
            />
          )}
        </div>
        {shownLayout && all && (
          <div className="h-[56px]">
            <BondDrawing layout={shownLayout} joint={pieces!.joint} turnDeg={first.spec.direction.turnDeg} />
          </div>
        )}
      </div>
      {def && shownLayout && all ? (
        <div className="mt-1.5 grid grid-cols-[1.5fr_1fr] gap-1">
          <SizeField
            label={def.size.label}
            value={def.size.get(shownLayout)}
            unit={unit}
            sorted={def.size.sorted}
            onChange={(size) => setLayout(def.size.set(shownLayout, size))}
          />
          <ValueField
            label="Joints"
            kind="length"
            unit={unit}
            value={joint}
            min={0}
            max={1000}
            onChange={(mm, g) => set((p) => ({ ...p, joint: { ...p.joint, alongMm: mm, acrossMm: mm } }), g)}
          />
          {fitted && def.size.get(fitted) && (
            <p className="quiet num col-span-2 text-2xs">
              laid{' '}
              {def.size
                .get(fitted)!
                .map((mm) => formatLength(mm, unit, { withUnit: false }))
                .join(' × ')}
              , exactly {aroundOf(first.spec.mapping)} around
            </p>
          )}
        </div>
      ) : (
        <p className="quiet mt-1.5 text-2xs leading-tight">
          {none
            ? 'Pick a surface that has a material.'
            : kind === 'asModelled'
              ? 'Every separate body of this surface is a piece with a print of its own.'
              : kind === MIXED
                ? 'The surfaces picked are laid differently. Choose one layout for all.'
                : 'The picture lies on the surface as it is. Choose a layout to lay it piece by piece.'}
        </p>
      )}
    </Card>
  );
}

const isLaidKind = (kind: LayoutSpec['kind']): kind is LaidKind => Object.hasOwn(LAYOUTS, kind);

const formatOf = (def: Layout<LaidSpec>, spec: LaidSpec): string => {
  const text = JSON.stringify(spec);
  const found = def.formats.findIndex((f) => JSON.stringify(f.spec) === text);
  return found < 0 ? '' : String(found);
};
