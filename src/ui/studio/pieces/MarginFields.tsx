'use client';

import { MARGIN_FIELDS } from '@/core/layout/marginFields';
import type { MarginsSpec } from '@/core/layout/margins';
import type { LengthUnit } from '@/core/units/length';
import { useProject } from '../../project/projectStore';
import { FieldSet } from '../../shared/FieldSet';
import { FieldViews, type OnEach } from '../../shared/FieldView';

/** Whole pieces only, and what becomes of the rest. */
export function MarginFields({
  margins,
  unit,
  onEach,
}: {
  margins: MarginsSpec[];
  unit: LengthUnit;
  onEach: OnEach<MarginsSpec>;
}) {
  const materials = Object.values(useProject((s) => s.project?.materials) ?? {}).map((m) => [m.id, m.name] as const);
  return (
    <FieldSet title="At the edges">
      <FieldViews fields={MARGIN_FIELDS} specs={margins} context={{ materials }} unit={unit} onEach={onEach} />
    </FieldSet>
  );
}
