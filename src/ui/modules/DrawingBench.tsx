'use client';

import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import type { ReadModule } from '@/api/answers';
import type { ModuleChoice } from '@/core/drawing/makeModule';
import { formatLength, type LengthUnit } from '@/core/units/length';
import { call, messageOf } from '../shared/api';
import { Select, TextField } from '../shared/fields';
import { ValueField } from '../shared/ValueField';
import { RepeatDrawing } from './RepeatDrawing';

export interface DrawingFile {
  file: string;
  text: string;
}

const FROM: Record<ReadModule['from'], string> = {
  file: 'as the file says',
  frame: 'by the drawing’s frame',
  outline: 'as the outline fits into itself',
  box: 'by the box round all shapes',
  typed: 'as typed',
};

/** A drawing before it is kept: how large it is, how it repeats, what its shapes are, and what is wrong where. */
export function DrawingBench({
  drawing,
  unit,
  leave,
  kept,
}: {
  drawing: DrawingFile;
  unit: LengthUnit;
  leave: () => void;
  /** It is in the library now. */
  kept: (id: string) => void;
}) {
  const [name, setName] = useState(drawing.file.replace(/\.[^.]+$/, ''));
  const [choice, setChoice] = useState<ModuleChoice>({});
  const { read, error, busy } = useRead(drawing, choice);
  const [isSaid, setSaid] = useState(false);
  const sized = !!read && (read.sized || isSaid);

  const change = (next: ModuleChoice) => setChoice({ ...choice, ...next });
  const keep = async () => {
    if (!read?.module) return;
    try {
      kept((await call('POST /api/modules', { body: { ...read.module, name } })).id);
    } catch (e) {
      toast.error(messageOf(e));
    }
  };
  return (
    <section aria-label="A drawing comes in" aria-busy={busy} className="flex min-h-0 flex-1">
      <div className="min-w-0 flex-1 bg-base-200 p-4">
        {read ? (
          <RepeatDrawing read={read} unit={unit} />
        ) : (
          <div className="grid h-full place-items-center">
            {error ? (
              <p role="alert" className="max-w-xl text-center text-error">
                {error}
              </p>
            ) : (
              <p className="quiet">Reading {drawing.file} …</p>
            )}
          </div>
        )}
      </div>
      <aside
        aria-label="The module"
        className="hair flex w-[340px] shrink-0 flex-col gap-4 overflow-auto border-l bg-base-100 p-3"
      >
        <div className="flex">
          <TextField label="Name" value={name} onChange={setName} className="font-semibold" />
        </div>
        {read && (
          <>
            <Repeat
              read={read}
              unit={unit}
              sized={sized}
              change={(next) => {
                if (next.widthMm !== undefined) setSaid(true);
                change(next);
              }}
            />
            <Findings read={read} unit={unit} accept={!!choice.accept} change={change} />
            {error && (
              <p role="alert" className="text-error">
                {error}
              </p>
            )}
          </>
        )}
        <div className="mt-auto space-y-2">
          {read && !sized && (
            <p className="text-2xs text-warning">
              Nothing in the file says how large it is. Type how far it is from one repeat to the next.
            </p>
          )}
          <div className="flex justify-end gap-2">
            <button type="button" className="tool tool-line" onClick={leave}>
              Leave it
            </button>
            <button
              type="button"
              className="tool tool-main"
              disabled={!read?.module || !sized || !name.trim() || busy}
              onClick={() => void keep()}
            >
              Keep in the library
            </button>
          </div>
        </div>
      </aside>
    </section>
  );
}

/** Size and repeat, and what the shapes are. */
function Repeat({
  read,
  unit,
  sized,
  change,
}: {
  read: ReadModule;
  unit: LengthUnit;
  sized: boolean;
  change: (choice: ModuleChoice) => void;
}) {
  const { right, up, as, shapes, from } = read;
  const roles = [...new Set(shapes.map((s) => s.role))];
  const step = (which: 'right' | 'up', k: 0 | 1) => (
    <ValueField
      label={`${which === 'right' ? 'To the right' : 'Up'}, ${k ? 'y' : 'x'}`}
      kind="length"
      unit={unit}
      value={read[which][k]}
      onChange={(mm) => {
        const next: [number, number] = [...read[which]];
        next[k] = mm;
        change(typedSteps(read, { right, up, [which]: next }));
      }}
    />
  );
  return (
    <div className="space-y-3">
      <div className={sized ? '' : 'rounded-[6px] outline-2 outline-offset-4 outline-warning'}>
        <ValueField
          label="Repeats every"
          kind="length"
          unit={unit}
          min={1}
          max={1e5}
          value={Math.hypot(...right)}
          title="The true length of one step to the right: sizes all of it"
          onChange={(widthMm) => change({ widthMm })}
        />
      </div>
      <Select
        label="Its shapes are"
        value={as}
        options={[
          ['pieces', 'pieces; what lies between is joint'],
          ['cells', 'cells; joints are taken from them'],
        ]}
        onChange={(v) => change({ as: v as ModuleChoice['as'] })}
      />
      <div>
        <p className="quiet mb-1 text-2xs">Steps of the repeat, {FROM[from]}</p>
        <div className="grid grid-cols-2 gap-1">
          {step('right', 0)}
          {step('right', 1)}
          {step('up', 0)}
          {step('up', 1)}
        </div>
      </div>
      <p className="text-2xs">
        <span className="num">{shapes.length}</span> {shapes.length === 1 ? 'shape' : 'shapes'}: {roles.join(', ')}
        {read.joints && as === 'pieces' && (
          <>
            . Joints{' '}
            <span className="num">
              {formatLength(read.joints.fromMm, unit, { decimals: 1, withUnit: false })} to{' '}
              {formatLength(read.joints.toMm, unit, { decimals: 1 })}
            </span>
          </>
        )}
      </p>
    </div>
  );
}

/** Steps as they are shown, said in the size of the file; it stays as large as it was. */
function typedSteps({ scale }: ReadModule, { right, up }: Pick<ReadModule, 'right' | 'up'>): ModuleChoice {
  const asRead = ([x, y]: [number, number]): [number, number] => [x / scale, y / scale];
  const sized = scale === 1 ? {} : { widthMm: Math.hypot(...right) };
  return { right: asRead(right), up: asRead(up), ...sized };
}

/** What is wrong, where, and what was left out. */
function Findings({
  read,
  unit,
  accept,
  change,
}: {
  read: ReadModule;
  unit: LengthUnit;
  accept: boolean;
  change: (choice: ModuleChoice) => void;
}) {
  const say = (mm: number) => formatLength(mm, unit, { decimals: 1 });
  return (
    <div className="space-y-2">
      {read.fault && (
        <p role="alert" className="text-2xs text-error">
          {read.fault}
        </p>
      )}
      {read.flaws.length > 0 && (
        <>
          <ul aria-label="Flaws" className="max-h-40 space-y-0.5 overflow-auto text-2xs">
            {read.flaws.map((f, n) => (
              <li key={n} className="num">
                {f.kind === 'gap' ? 'Gap' : 'Overlap'} {say(f.sizeMm[0])} × {say(f.sizeMm[1])} at {say(f.at[0])},{' '}
                {say(f.at[1])}
              </li>
            ))}
          </ul>
          <label className="flex items-start gap-2 text-2xs">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={accept}
              onChange={(e) => change({ accept: e.target.checked })}
            />
            Accept it as it is: gaps become joint, and of two shapes the later one lies on top.
          </label>
        </>
      )}
      {read.remarks.length > 0 && (
        <ul aria-label="Left out" className="quiet space-y-0.5 text-2xs">
          {read.remarks.map((r) => (
            <li key={r}>{r}</li>
          ))}
        </ul>
      )}
    </div>
  );
}

/** Reads a drawing, and again with every choice; the last answer stays until the next is there. */
function useRead(drawing: DrawingFile, choice: ModuleChoice) {
  const [state, setState] = useState<{ read: ReadModule | null; error: string | null; busy: boolean }>({
    read: null,
    error: null,
    busy: true,
  });
  useEffect(() => {
    const left = new AbortController();
    const ask = async () => {
      setState((s) => ({ ...s, busy: true }));
      try {
        const read = await call('POST /api/modules/read', { body: { ...drawing, choice } }, left.signal);
        setState({ read, error: null, busy: false });
      } catch (e) {
        if ((e as Error).name !== 'AbortError') setState((s) => ({ ...s, error: messageOf(e), busy: false }));
      }
    };
    void ask();
    return () => left.abort();
  }, [drawing, choice]);
  return state;
}
