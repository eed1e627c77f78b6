'use client';

import { Variable, X } from 'lucide-react';
import { useState } from 'react';
import { namesOf, usesOf } from '@/core/project/values';
import type { Project } from '@/core/project/schema';
import { formatLength, type Names, trimNumber } from '@/core/units/length';
import { useDecimalSign } from '../shared/decimalSign';
import { TextField } from '../shared/fields';
import { newId } from '../shared/ids';
import { Menu } from '../shared/Menu';
import { useProject } from './projectStore';

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
        <div key={value.id} className="grid grid-cols-[1fr_1fr_88px_24px] items-center gap-1 pb-1">
          <TextField
            hidden
            label={`Name of ${value.name}`}
            value={value.name}
            onChange={(to) => to && run([{ kind: 'setValue', value: { ...value, name: to } }])}
          />
          <TextField
            hidden
            className="num"
            label={`${value.name} is`}
            value={value.sum}
            onChange={(to) => to && run([{ kind: 'setValue', value: { ...value, sum: to, unit: project.unit, sign } }])}
          />
          <span className="num truncate text-2xs" title={uses.get(value.name)?.join(', ') ?? 'Nothing uses it'}>
            {comesTo(value.name)}
            <span className="quiet block">
              {uses.has(value.name) ? `used ${uses.get(value.name)!.length} ×` : 'unused'}
            </span>
          </span>
          <button
            type="button"
            className="tool px-1"
            disabled={uses.has(value.name)}
            aria-label={`Remove ${value.name}`}
            title={uses.has(value.name) ? `Used by ${uses.get(value.name)!.join(', ')}` : 'Remove'}
            onClick={() => run([{ kind: 'removeValues', ids: [value.id] }])}
          >
            <X size={13} />
          </button>
        </div>
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
      {unused.length > 1 && (
        <button type="button" className="tool mt-1" onClick={() => run([{ kind: 'removeValues', ids: unused }])}>
          Clear {unused.length} unused
        </button>
      )}
    </div>
  );
}
