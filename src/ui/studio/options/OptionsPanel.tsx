'use client';

import { Columns2, X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { MOST_OPTIONS, optionsBeside, specsOfOption } from '@/core/project/options';
import type { DesignOption, Project } from '@/core/project/schema';
import type { Spec } from '@/core/specification/schema';
import { useProject } from '../../project/projectStore';
import { useDecimalSign } from '../../shared/decimalSign';
import { Select, TextField } from '../../shared/fields';
import { newId } from '../../shared/ids';
import { Menu } from '../../shared/Menu';
import { useBench } from '../useBench';
import { type Side, useCompare } from './compareStore';
import { Figures } from './Figures';
import { readSizes, type Tried, triedOf } from './sizesAsOptions';

const AS_LAID = 'as laid';

/** Other answers for what is picked: set aside, looked at, compared under an edge, and one of them kept. */
export function OptionsMenu() {
  const count = useProject((s) => Object.keys(s.project?.options ?? {}).length);
  return (
    <Menu
      align="right"
      wide
      label={
        <>
          <Columns2 size={14} /> Options{count ? ` ${count}` : ''}
        </>
      }
      title="Other answers for what is picked, side by side; one of them is kept"
    >
      {(close) => <Panel close={close} />}
    </Menu>
  );
}

function Panel({ close }: { close: () => void }) {
  const { project, laid, run } = useBench();
  const setPreview = useProject((s) => s.setPreview);
  useEffect(() => () => setPreview({}), [setPreview]);
  if (!project) return null;
  const own = Object.fromEntries(laid.map((l) => [l.surface.id, l.spec]));
  const beside = laid.length ? optionsBeside(project, { specs: own }) : [];
  const others = Object.values(project.options ?? {}).filter((o) => !beside.includes(o));
  const taken = new Set(beside.map((o) => o.name));
  const full = beside.length >= MOST_OPTIONS;
  const setAside = (name: string, specs: Record<string, Spec>) =>
    run([{ kind: 'setOption', option: { id: newId('option'), name, specs } }]);
  return (
    <div className="w-[430px] p-2" role="group" aria-label="Options">
      {!laid.length && !others.length && (
        <p className="quiet text-2xs">Pick surfaces on which something is laid: other answers for them stand here.</p>
      )}
      {beside.length > 0 && <Rows options={beside} own={own} close={close} />}
      {laid.length > 0 && !full && (
        <div className="space-y-1.5 border-t border-base-300 pt-1.5 first:border-t-0 first:pt-0">
          <button
            type="button"
            className="tool tool-line"
            title="As it is laid now; go on changing it, and set that aside, too"
            onClick={() => setAside(freeLetter(taken), own)}
          >
            Set what is laid aside as {freeLetter(taken)}
          </button>
          <Sizes taken={taken} room={MOST_OPTIONS - beside.length} onMake={(made) => run(made.map(asCommand))} />
        </div>
      )}
      {full && <p className="quiet text-2xs">Four are as many as one can hold apart: remove one first.</p>}
      {others.length > 0 && (
        <>
          <p className="quiet mt-2 text-2xs">For other surfaces</p>
          <ul className="text-2xs">
            {others.map((o) => (
              <Other key={o.id} option={o} project={project} />
            ))}
          </ul>
        </>
      )}
    </div>
  );
}

const asCommand = (option: DesignOption) => ({ kind: 'setOption' as const, option });

/** Option A, B, C … */
function freeLetter(taken: ReadonlySet<string>): string {
  for (let n = 0; n < 26; n++) {
    const name = `Option ${String.fromCharCode(65 + n)}`;
    if (!taken.has(name)) return name;
  }
  return 'Option';
}

function Other({ option, project }: { option: DesignOption; project: Project }) {
  const run = useProject((s) => s.run);
  const names = Object.keys(option.specs).flatMap((id) => project.surfaces[id]?.name ?? []);
  return (
    <li className="flex items-center gap-1">
      <span className="min-w-0 truncate" title={names.join(', ')}>
        {option.name} <span className="quiet">{names.join(', ') || 'of surfaces that are gone'}</span>
      </span>
      <button
        type="button"
        className="tool ml-auto h-5 px-1"
        aria-label={`Remove ${option.name}`}
        onClick={() => run([{ kind: 'removeOption', id: option.id }])}
      >
        <X size={12} />
      </button>
    </li>
  );
}

/** The options for what is picked, each with what it comes to, and two of them under the edge. */
function Rows({ options, own, close }: { options: DesignOption[]; own: Record<string, Spec>; close: () => void }) {
  const project = useProject((s) => s.project)!;
  const run = useProject((s) => s.run);
  const setPreview = useProject((s) => s.setPreview);
  const compare = useCompare((s) => s.compare);
  const [left, setLeft] = useState(AS_LAID);
  const [right, setRight] = useState(options[0].id);
  const known = [AS_LAID, ...options.map((o) => o.id)];
  const pick = (id: string, otherwise: string) => (known.includes(id) ? id : otherwise);
  const sideOf = (id: string): Side => {
    const option = options.find((o) => o.id === id);
    return option ? { name: option.name, specs: specsOfOption(project, option.id) } : { name: AS_LAID, specs: {} };
  };
  const choices: [string, string][] = [[AS_LAID, AS_LAID], ...options.map((o): [string, string] => [o.id, o.name])];
  const [l, r] = [pick(left, AS_LAID), pick(right, options[0].id)];
  return (
    <>
      {options.map((option) => (
        <div
          key={option.id}
          className="grid grid-cols-[96px_1fr_auto] items-center gap-1.5 pb-1"
          onMouseEnter={() => setPreview(specsOfOption(project, option.id))}
          onMouseLeave={() => setPreview({})}
        >
          <TextField
            hidden
            label={`Name of ${option.name}`}
            value={option.name}
            onChange={(name) => name && run([asCommand({ ...option, name })])}
          />
          <Figures project={project} specs={option.specs} />
          <span className="flex">
            <button
              type="button"
              className="tool h-[22px] px-1 text-2xs"
              title="Put what is laid now in its place"
              aria-label={`Change ${option.name} to what is laid`}
              onClick={() => run([asCommand({ ...option, specs: own })])}
            >
              Renew
            </button>
            <button
              type="button"
              className="tool h-[22px] px-1 text-2xs"
              title="Lay it to work on it; the options stay"
              aria-label={`Lay ${option.name}`}
              onClick={() => run([{ kind: 'setSpecs', specs: specsOfOption(project, option.id) }])}
            >
              Lay
            </button>
            <button
              type="button"
              className="tool tool-line h-[22px] px-1.5 text-2xs"
              title="Lay it; the others go, and stay in the history"
              aria-label={`Keep ${option.name}`}
              onClick={() => {
                run([{ kind: 'keepOption', id: option.id }]);
                toast(`${option.name} is laid. The others went; undo brings them back.`);
                close();
              }}
            >
              Keep
            </button>
            <button
              type="button"
              className="tool h-[22px] px-1"
              aria-label={`Remove ${option.name}`}
              title="Remove"
              onClick={() => run([{ kind: 'removeOption', id: option.id }])}
            >
              <X size={12} />
            </button>
          </span>
        </div>
      ))}
      <div className="mb-1.5 flex items-end gap-1.5">
        <div className="w-32">
          <Select label="On the left" value={l} options={choices} onChange={setLeft} />
        </div>
        <div className="w-32">
          <Select label="On the right" value={r} options={choices} onChange={setRight} />
        </div>
        <button
          type="button"
          className="tool tool-line"
          disabled={l === r}
          title="Both in the room, under an edge that slides"
          onClick={() => (close(), compare(sideOf(l), sideOf(r)))}
        >
          Compare
        </button>
      </div>
    </>
  );
}

/** “This in 60, 70, 90 mm”: an option for each. */
function Sizes({
  taken,
  room,
  onMake,
}: {
  taken: ReadonlySet<string>;
  room: number;
  onMake: (options: DesignOption[]) => void;
}) {
  const { laid, unit } = useBench();
  const sign = useDecimalSign((s) => s.sign) ?? '.';
  const tried = triedOf(laid[0].spec);
  const [id, setId] = useState<Tried['id']>(tried[0].id);
  const [text, setText] = useState('');
  const [error, setError] = useState<string | null>(null);
  const chosen = tried.find((t) => t.id === id) ?? tried[0];
  const make = () => {
    const read = readSizes(text, chosen, unit, sign);
    if (!read.ok) return setError(read.error);
    const fresh = read.values.filter((v) => !taken.has(v.name));
    if (fresh.length > room) return setError(`there is room for ${room} more`);
    setError(null);
    setText('');
    onMake(
      fresh.map(({ name, value }) => ({
        id: newId('option'),
        name,
        specs: Object.fromEntries(laid.map((l) => [l.surface.id, chosen.set(l.spec, value, l.material)])),
      })),
    );
  };
  return (
    <div>
      <div className="flex items-end gap-1.5">
        <div className="w-36">
          <Select
            label="Try"
            value={chosen.id}
            options={tried.map((t) => [t.id, t.label])}
            onChange={(v) => setId(v as Tried['id'])}
          />
        </div>
        <label className="min-w-0 flex-1">
          <span className="quiet mb-0.5 block text-2xs">in</span>
          <input
            aria-label="Sizes to try"
            className="field num"
            placeholder={chosen.kind === 'angle' ? '0, 45, 90°' : '60, 70, 90 mm'}
            value={text}
            onChange={(e) => setText(e.target.value)}
            onKeyDown={(e) => e.key === 'Enter' && make()}
          />
        </label>
        <button type="button" className="tool tool-line" disabled={!text.trim()} onClick={make}>
          Make options
        </button>
      </div>
      {error && (
        <p role="alert" className="mt-0.5 text-2xs text-error">
          {error}
        </p>
      )}
    </div>
  );
}
