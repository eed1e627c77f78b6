'use client';

import { Variable, X } from 'lucide-react';
import { useState } from 'react';
import { freeName, namesOf, usesOf } from '@/core/project/values';
import type { SheetSummary } from '@/core/mapping/sheet';
import type { Project } from '@/core/project/schema';
import type { NamedValue } from '@/core/project/valueSchema';
import { formatLength, type Names, trimNumber } from '@/core/units/length';
import { useDecimalSign } from '../shared/decimalSign';
import { TextField } from '../shared/fields';
import { newId } from '../shared/ids';
import { Menu } from '../shared/Menu';
import { useSheet } from '../studio/useSheet';
import { useProject } from './projectStore';
import { useSelection } from './selection';

/** The project's named values: any number field takes sums of them, and follows. */
export function NamedValues() {
  const count = useProject((s) => Object.keys(s.project?.values ?? {}).length);
  return (
    <Menu
      align="right"
      wide
      label={
        <>
          <Variable size={14} /> Values{count ? ` ${count}` : ''}
        </>
      }
      title="Named values that drive others: type their names in any number field"
    >
      {() => <Panel />}
    </Menu>
  );
}

const namesNow = (project: Project): Names | null => {
  try {
    return namesOf(project);
  } catch {
    return null;
  }
};

function Panel() {
  const project = useProject((s) => s.project)!;
  const run = useProject((s) => s.run);
  const sign = useDecimalSign((s) => s.sign) ?? '.';
  const [name, setName] = useState('');
  const [sum, setSum] = useState('');
  const picked = useSelection(({ ids }) => ids[0] ?? null);
  const values = Object.values(project.values ?? {});
  const names = namesNow(project);
  const uses = usesOf(project);
  const unused = values.filter((v) => !uses.has(v.name)).map((v) => v.id);
  const comesTo = (of: string) => {
    const found = names?.get(of);
    if (!found) return '';
    return found.isLength ? formatLength(found.value, project.unit) : trimNumber(found.value, 4);
  };
  const add = () => {
    if (!name.trim() || !sum.trim()) return;
    run([
      { kind: 'setValue', value: { id: newId('value'), name: name.trim(), sum: sum.trim(), unit: project.unit, sign } },
    ]);
    setName('');
    setSum('');
  };
  const onEnter = (e: React.KeyboardEvent) => e.key === 'Enter' && add();
  return (
    <div className="w-[400px] p-2" role="group" aria-label="Named values">
      {!values.length && (
        <p className="quiet pb-1.5 text-2xs">
          None yet. Call one <i>module</i> and say it is 600; then any number field takes sums such as{' '}
          <i>module/4 - 3</i>, and follows when it changes. Levels go by their names.
        </p>
      )}
      {values.map((value) => (
        <ValueRow key={value.id} value={value} uses={uses.get(value.name) ?? []} comesTo={comesTo(value.name)} />
      ))}
      <div className="grid grid-cols-[1fr_1fr_auto] items-end gap-1 border-t border-base-300 pt-1.5">
        <input
          aria-label="New name"
          placeholder="joint"
          className="field"
          value={name}
          onChange={(e) => setName(e.target.value)}
          onKeyDown={onEnter}
        />
        <input
          aria-label="New value"
          placeholder="10 mm"
          className="field num"
          value={sum}
          onChange={(e) => setSum(e.target.value)}
          onKeyDown={onEnter}
        />
        <button type="button" className="tool tool-line" disabled={!name.trim() || !sum.trim()} onClick={add}>
          Add
        </button>
      </div>
      {picked && <Measure key={picked} surface={picked} />}
      {unused.length > 1 && (
        <button type="button" className="tool mt-1" onClick={() => run([{ kind: 'removeValues', ids: unused }])}>
          Clear {unused.length} unused
        </button>
      )}
    </div>
  );
}

function ValueRow({ value, uses, comesTo }: { value: NamedValue; uses: string[]; comesTo: string }) {
  const { unit } = useProject((s) => s.project)!;
  const run = useProject((s) => s.run);
  const sign = useDecimalSign((s) => s.sign) ?? '.';
  const { measured: _typedOver, ...typed } = value;
  const set = (next: NamedValue) => run([{ kind: 'setValue', value: next }]);
  return (
    <div className="pb-1">
      <div className="grid grid-cols-[1fr_1fr_88px_24px] items-center gap-1">
        <TextField
          hidden
          label={`Name of ${value.name}`}
          value={value.name}
          onChange={(name) => name && set({ ...value, name })}
        />
        <TextField
          hidden
          className="num"
          label={`${value.name} is`}
          value={value.sum}
          onChange={(sum) => sum && set({ ...typed, sum, unit, sign })}
        />
        <span className="num truncate text-2xs" title={uses.join(', ') || 'Nothing uses it'}>
          {comesTo}
          <span className="quiet block">{uses.length ? `used ${uses.length} ×` : 'unused'}</span>
        </span>
        <button
          type="button"
          className="tool px-1"
          disabled={uses.length > 0}
          aria-label={`Remove ${value.name}`}
          title={uses.length ? `Used by ${uses.join(', ')}` : 'Remove'}
          onClick={() => run([{ kind: 'removeValues', ids: [value.id] }])}
        >
          <X size={13} />
        </button>
      </div>
      {value.measured && <MeasuredOn value={value} of={value.measured} onTake={set} />}
    </div>
  );
}

type Side = NonNullable<NamedValue['measured']>['side'];
const SIDES: Side[] = ['width', 'height'];

/** A side of a sheet as a sum, to a hundredth of a millimetre. */
const sumOf = ({ bounds: b }: SheetSummary, side: Side): string =>
  `${trimNumber(side === 'width' ? b.maxX - b.minX : b.maxY - b.minY, 2)} mm`;

/** Where a value was measured; what it is there now, where that is another. */
function MeasuredOn({
  value,
  of,
  onTake,
}: {
  value: NamedValue;
  of: NonNullable<NamedValue['measured']>;
  onTake: (next: NamedValue) => void;
}) {
  const name = useProject((s) => s.project?.surfaces[of.surface]?.name);
  const sheet = useSheet(of.surface)?.sheet;
  const now = sheet && sumOf(sheet, of.side);
  if (!name) return <p className="quiet text-2xs">{of.side} of a surface that is gone</p>;
  return (
    <p className="quiet num flex items-center gap-1 text-2xs">
      {of.side} of {name}
      {now && now !== value.sum && (
        <button
          type="button"
          className="tool h-[18px] px-1 text-2xs text-error"
          title="Everything that uses it follows, as one step"
          onClick={() => onTake({ ...value, sum: now, unit: 'mm', sign: '.' })}
        >
          now {now}: take it
        </button>
      )}
    </p>
  );
}

/** Names a side of the picked surface's sheet. */
function Measure({ surface }: { surface: string }) {
  const project = useProject((s) => s.project)!;
  const run = useProject((s) => s.run);
  const sheet = useSheet(surface)?.sheet;
  const { name } = project.surfaces[surface] ?? {};
  if (!sheet || !name) return null;
  const taken = new Set(Object.values(project.values ?? {}).map((v) => v.name));
  const add = (side: Side) =>
    run([
      {
        kind: 'setValue',
        value: {
          id: newId('value'),
          name: freeName(`${name} ${side}`, taken),
          sum: sumOf(sheet, side),
          unit: 'mm',
          sign: '.',
          measured: { surface, side },
        },
      },
    ]);
  return (
    <p className="mt-1 flex items-center gap-1 text-2xs">
      <span className="quiet min-w-0 truncate">Measured on {name}:</span>
      {SIDES.map((side) => (
        <button
          key={side}
          type="button"
          className="tool tool-line num h-[20px] shrink-0 px-1.5 text-2xs"
          onClick={() => add(side)}
        >
          {side} {sumOf(sheet, side)}
        </button>
      ))}
    </p>
  );
}
