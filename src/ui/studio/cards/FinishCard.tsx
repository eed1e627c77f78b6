'use client';

import { finishOn } from '@/core/specification/finish';
import { FINISH_FIELDS, type FinishOfMaterial } from '@/core/specification/finishFields';
import { defaultFinish, type Material } from '@/core/material/schema';
import { FieldViews } from '../../shared/FieldView';
import { Card } from '../Card';
import { type Laid, useBench } from '../useBench';

/** How the face meets light. What is not set here follows the material. */
export function FinishCard() {
  const { laid, edit, unit } = useBench();
  const own = laid.length ? laid.some((l) => Object.keys(l.spec.finish).length > 0) : undefined;
  const [first] = laid;
  const finishOfLaid = ({ spec, material }: Laid): FinishOfMaterial => ({ finish: spec.finish, material });
  // with nothing picked the fields are seen, and fixed
  const fields = (further: boolean) => (
    <fieldset disabled={!first} className="grid grid-cols-2 gap-1 disabled:opacity-40">
      <FieldViews
        fields={FINISH_FIELDS.filter((f) => !!f.further === further)}
        specs={first ? laid.map(finishOfLaid) : [NOTHING]}
        context={undefined}
        unit={unit}
        onEach={(change, gesture) => edit((l) => ({ ...l.spec, finish: change(finishOfLaid(l)).finish }), gesture)}
      />
      {!further && first?.material.maps.roughness && (
        <p className="quiet col-span-2 text-2xs leading-tight">
          It has a roughness map, moved by{' '}
          <span className="num">{finishOn(first.spec.finish, first.material).roughnessShift.toFixed(2)}</span>
        </p>
      )}
    </fieldset>
  );
  return (
    <Card
      id="finish"
      share={1.06}
      title="Finish"
      own={own}
      follows="the material"
      onLetGo={() => edit((l) => ({ ...l.spec, finish: {} }))}
      more={fields(true)}
    >
      {fields(false)}
    </Card>
  );
}

const NOTHING: FinishOfMaterial = {
  finish: {},
  material: { finish: defaultFinish(), maps: {}, colour: '#ffffff' } as Material,
};
