'use client';

import type { LibraryModule } from '@/api/answers';
import { layOwn } from '@/core/layout/own/own';
import { layoutOf, LAYOUTS } from '@/core/layout/registry';
import { type LayoutSpec, type PiecesSpec } from '@/core/layout/schema';
import type { MarginsSpec } from '@/core/layout/margins';
import type { JointSpec } from '@/core/layout/joint';
import type { Layout } from '@/core/layout/types';
import { whole } from '@/core/layout/whole';
import { goAround } from '@/core/setout/around';
import { aroundOf } from '@/core/mapping/schema';
import type { Field } from '@/core/schema/fields';
import { formatLength } from '@/core/units/length';
import { useModules } from '../../modules/useModules';
import { FieldSet } from '../../shared/FieldSet';
import { FieldViews, type OnEach } from '../../shared/FieldView';
import { Select } from '../../shared/fields';
import { SizeField } from '../../shared/SizeField';
import { MIXED, ValueField } from '../../shared/ValueField';
import { Segment } from '../bench/Segment';
import { becomeLayout, type LayoutChoice, presetOf } from '../pieces/becomeLayout';
import { BondDrawing } from '../pieces/BondDrawing';
import { LayoutPicker, TRADES } from '../pieces/LayoutPicker';
import { MarginFields } from '../pieces/MarginFields';
import { JointFields } from '../pieces/JointFields';
import { MixFields } from '../pieces/MixFields';
import { useBench } from '../useBench';
import { sharedBy } from '../../shared/sharedValue';
import { useSheet } from '../useSheet';

const GROUPS = TRADES.map(([trade, title]): [string, [string, string][]] => [
  title,
  LAYOUTS.filter((l) => l.trade === trade).map(({ kind, label }) => [kind, label]),
]).filter(([, kinds]) => kinds.length);

/** How pieces are arranged, their size, and what lies between them. */
export function PiecesCard() {
  const { laid, edit, unit } = useBench();
  const none = !laid.length;
  const kind = none ? null : sharedBy(laid, (l) => l.spec.pieces?.layout.kind ?? 'whole');
  const first = laid[0];
  const pieces = first?.spec.pieces;
  const layout = pieces?.layout;
  const all = !none && kind !== MIXED;

  const setPieces = (change: (pieces: PiecesSpec) => PiecesSpec, gesture?: string) =>
    edit((l) => (l.spec.pieces ? { ...l.spec, pieces: change(l.spec.pieces) } : l.spec), gesture);
  const onJoint: OnEach<JointSpec> = (change, g) => setPieces((p) => ({ ...p, joint: change(p.joint) }), g);
  const onMargins: OnEach<MarginsSpec> = (change, g) =>
    setPieces((p) => ({ ...p, margins: change(p.margins ?? {}) }), g);
  const onLayout: OnEach<LayoutSpec> = (change, g) => setPieces((p) => ({ ...p, layout: change(p.layout) }), g);

  const become = (next: LayoutChoice) => edit((l) => becomeLayout(l.spec, next));
  const modules = useModules().data;
  const def = layout && all ? layoutOf(layout) : null;
  const inPieces = def?.cells === 'laid';
  const taken = def && layout ? (def.takenFrom?.(layout) ?? null) : null;
  const formats = def ? formatsOf(def, taken ? modules : undefined) : [];
  const every = laid.flatMap((l) => (l.spec.pieces ? [l.spec.pieces] : []));
  const sheet = useSheet(first?.spec && aroundOf(first.spec.mapping) ? first.surface.id : null)?.sheet ?? null;
  const fitted = sheet && first ? (goAround(first.spec, sheet.ring)?.layout ?? null) : null;
  const sameArris = sharedBy(laid, (l) => l.spec.pieces?.arris ?? 'fold');
  const joint = inPieces ? sharedBy(laid, (l) => l.spec.pieces?.joint.acrossMm ?? 0) : null;
  const size = inPieces ? sharedBy(laid, (l) => def.size?.get(l.spec.pieces!.layout) ?? null) : null;

  return (
    <Segment
      id="pieces"
      further={
        pieces && def && def.cells !== 'none' ? (
          <div className="space-y-1">
            <FieldSet title="Sizes and bond">
              <FieldViews
                fields={def.fields}
                specs={every.map((p) => p.layout)}
                context={undefined}
                unit={unit}
                onEach={onLayout}
              />
              {layout && def.pitch?.(layout, pieces.joint) && (
                <Select
                  label="At an arris they"
                  value={sameArris === MIXED ? '' : sameArris}
                  options={[...(sameArris === MIXED ? [['', 'mixed'] as [string, string]] : []), ...ARRISES]}
                  onChange={(v) => v && setPieces((p) => ({ ...p, arris: v as NonNullable<PiecesSpec['arris']> }))}
                />
              )}
              {layout && def.pitch?.(layout, pieces.joint) && pieces.arris && pieces.arris !== 'fold' && (
                <FieldViews
                  fields={[THICKNESS]}
                  specs={every}
                  context={undefined}
                  unit={unit}
                  onEach={(change, g) => setPieces(change, g)}
                />
              )}
            </FieldSet>
            <JointFields
              joints={every.map((p) => p.joint)}
              unit={unit}
              plain={!inPieces}
              one={def.oneJoint}
              drawn={!!layout && def.jointDrawn?.(layout)}
              onEach={onJoint}
            />
            {layout && !!def.course?.(layout, pieces.joint) && (
              <MarginFields margins={every.map((p) => p.margins ?? {})} unit={unit} onEach={onMargins} />
            )}
            <MixFields
              mixes={every.map((p) => p.mix)}
              unit={unit}
              main={first.spec.material}
              roles={(layout && def.rolesOf?.(layout)) ?? def.roles}
              onEach={(change, materials, g) =>
                edit(
                  (l) =>
                    l.spec.pieces
                      ? { ...l.spec, pieces: { ...l.spec.pieces, mix: change(l.spec.pieces.mix) } }
                      : l.spec,
                  g,
                  materials,
                )
              }
            />
          </div>
        ) : undefined
      }
    >
      <div className={none ? '' : 'grid grid-cols-[1fr_58px] gap-1.5'}>
        <div className="min-w-0 space-y-1">
          <Select
            label="Layout"
            hideLabel
            value={kind === MIXED ? '' : (kind ?? 'whole')}
            disabled={none}
            options={kind === MIXED ? [['', 'mixed']] : []}
            groups={GROUPS}
            onChange={(v) => v && become(presetOf(v as LayoutSpec['kind']))}
          />
          {inPieces && (
            <Select
              label="Format"
              hideLabel
              value={formatOf(formats, layout!)}
              options={[['', 'Own format'], ...formats.map((f, i): [string, string] => [String(i), f.label])]}
              onChange={(v) => {
                const format = formats[Number(v)];
                if (v === '' || !format) return;
                setPieces((p) => ({
                  ...p,
                  layout: format.spec,
                  joint: { ...p.joint, ...def.preset.joint, material: p.joint.material, ...format.joint },
                }));
              }}
            />
          )}
        </div>
        {!none && (
          <div className="h-[56px]">
            <LayoutPicker laid={laid} kind={kind === MIXED ? null : (taken ?? kind)} onTake={become}>
              {inPieces ? (
                <BondDrawing layout={layout!} joint={pieces!.joint} turnDeg={first.spec.direction.turnDeg} />
              ) : (
                <span className="quiet block h-full rounded-[4px] border border-dashed border-base-300 pt-3 text-2xs">
                  Drawings
                </span>
              )}
            </LayoutPicker>
          </div>
        )}
      </div>
      {inPieces && def.size ? (
        <div className="mt-1.5 grid grid-cols-[1.5fr_1fr] gap-1">
          <SizeField
            label={def.size.label}
            value={size === MIXED ? null : size}
            unit={unit}
            sorted={def.size.sorted}
            onChange={(next) => onLayout((own) => def.size!.set(own, next))}
          />
          {layout && def.jointDrawn?.(layout) ? (
            <p className="quiet self-end pb-1.5 text-2xs">joints as drawn</p>
          ) : (
            <ValueField
              label="Joints"
              kind="length"
              unit={unit}
              value={joint}
              min={0}
              max={1000}
              onChange={(mm, g) => onJoint((j) => ({ ...j, alongMm: mm, acrossMm: mm }), g)}
              onStep={(by, g) =>
                onJoint(
                  (j) => ({ ...j, alongMm: Math.max(0, j.alongMm + by), acrossMm: Math.max(0, j.acrossMm + by) }),
                  g,
                )
              }
            />
          )}
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
            : kind === MIXED
              ? 'The surfaces picked are laid differently. Choose one layout for all.'
              : (def ?? whole).hint}
        </p>
      )}
    </Segment>
  );
}

/** What returns show, and what inner corners leave room for. */
const THICKNESS: Field<PiecesSpec, undefined> = {
  kind: 'freeLength',
  label: 'Thickness at corners',
  min: 1,
  max: 10_000,
  free: 'Half their length shows',
  get: (s) => s.thicknessMm ?? null,
  set: (s, thicknessMm) => {
    const { thicknessMm: _before, ...plain } = s;
    return thicknessMm === null ? plain : { ...plain, thicknessMm };
  },
};

const ARRISES: [string, string][] = [
  ['fold', 'fold over it'],
  ['break', 'break, and begin anew'],
  ['return', 'return, as masons do'],
];

/** Named sizes of a layout; of one that is taken from the library, what is there. */
const formatsOf = (def: Layout<LayoutSpec>, modules: readonly LibraryModule[] = []): Layout<LayoutSpec>['formats'] => [
  ...def.formats,
  ...modules.map(({ module }) => ({ label: module.name, spec: layOwn(module) })),
];

const formatOf = (formats: Layout<LayoutSpec>['formats'], spec: LayoutSpec): string => {
  const text = JSON.stringify(spec);
  const found = formats.findIndex((f) => JSON.stringify(f.spec) === text);
  return found < 0 ? '' : String(found);
};
