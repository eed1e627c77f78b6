'use client';

import { finishOn } from '@/core/specification/finish';
import { FINISH_FIELDS, type FinishOfMaterial } from '@/core/specification/finishFields';
import { defaultFinish, type Material } from '@/core/material/schema';
import { FieldViews } from '../../shared/FieldView';
import { Segment } from '../bench/Segment';
import { type Laid, useBench } from '../useBench';

/** How the face meets light. What is not set here follows the material. */
export function FinishCard() {
  const { laid, edit, unit } = useBench();
  const own = laid.length ? laid.some((l) => Object.keys(l.spec.finish).length > 0) : undefined;
  const [first] = laid;
  const finishOfLaid = ({ spec, material }: Laid): FinishOfMaterial => ({ finish: spec.finish, material });
  // with nothing picked the fields are seen, and fixed
  const fields = (further: boolean) => (
    <fieldset disabled={!first} className={`grid gap-1 disabled:opacity-40 ${further ? COLUMNS : 'grid-cols-2'}`}>
      <FieldViews
        fields={FINISH_FIELDS.filter((f) => !!f.further === further)}
        specs={first ? laid.map(finishOfLaid) : [NOTHING]}
        context={undefined}
        unit={unit}
        onEach={(change, gesture) => edit((l) => ({ ...l.spec, finish: change(finishOfLaid(l)).finish }), gesture)}
      />
      {!further && first?.material.maps.roughness && <OfRoughnessMap {...finishOfLaid(first)} />}
    </fieldset>
  );
  return (
    <Segment
      id="finish"
      own={own}
      follows="the material"
      onLetGo={() => edit((l) => ({ ...l.spec, finish: {} }))}
      further={fields(true)}
    >
      {fields(false)}
    </Segment>
  );
}

function OfRoughnessMap({ finish, material }: FinishOfMaterial) {
  const { times, plus } = finishOn(finish, material).mixed.roughness;
  return (
    <p className="quiet col-span-2 text-2xs leading-tight">
      {times === 1 ? 'It has a roughness map, moved by ' : 'Of its roughness map counts '}
      <span className="num">{times === 1 ? plus.toFixed(2) : `${Math.round(times * 100)} %`}</span>
    </p>
  );
}

const COLUMNS = 'grid-cols-[repeat(auto-fill,minmax(126px,1fr))]';

const NOTHING: FinishOfMaterial = {
  finish: {},
  material: { finish: defaultFinish(), maps: {}, colour: '#ffffff' } as Material,
};
