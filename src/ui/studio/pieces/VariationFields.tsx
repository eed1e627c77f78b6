'use client';

import type { LengthUnit } from '@/core/units/length';
import { VARIATION_FIELDS, type VariationOfMaterial } from '@/core/variation/fields';
import { FieldGroups, type OnEach } from '../../shared/FieldView';

/** Everything in which pieces can differ. */
export function VariationFields({
  variations,
  unit,
  onEach,
}: {
  /** Of all that is picked, the first picked first. */
  variations: VariationOfMaterial[];
  unit: LengthUnit;
  onEach: OnEach<VariationOfMaterial>;
}) {
  return (
    <div className="space-y-1">
      <FieldGroups
        titled
        groups={VARIATION_FIELDS}
        specs={variations}
        context={undefined}
        unit={unit}
        onEach={onEach}
      />
    </div>
  );
}
