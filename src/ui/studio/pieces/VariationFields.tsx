'use client';

import type { LengthUnit } from '@/core/units/length';
import { VARIATION_FIELDS, type VariationOfMaterial } from '@/core/variation/fields';
import { FieldGroups, type OnEach } from '../../shared/FieldView';
import { SamplesContext } from '../../shared/RangeView';
import { SAMPLE, SamplePiece, shownMm } from './SamplePiece';

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
  const [{ material }] = variations;
  return (
    <SamplesContext.Provider
      value={{
        draw: (look) => <SamplePiece material={material} look={look} />,
        mmPerPx: shownMm(material) / SAMPLE.width,
      }}
    >
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
    </SamplesContext.Provider>
  );
}
