'use client';

import { Ruler } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import type { Remark } from '@/core/mesh/types';
import type { UnitGuess } from '@/core/mesh/unitEvidence';
import { formatLength, parseLength } from '@/core/units/length';
import { useLibraryRefresh } from '../materials/useLibrary';
import { usePanels } from '../project/panels';
import { useProject } from '../project/projectStore';
import { call, messageOf } from '../shared/api';
import type { Preview } from '@/api/answers';
import { Stage } from './Stage';

/** What is to be made of the file. */
interface Choice {
  scene: number;
  unitMm: number;
  upAxis: 'y' | 'z';
}

const UNIT_NAMES: Record<UnitGuess['unit'], string> = {
  mm: 'Millimetres',
  cm: 'Centimetres',
  m: 'Metres',
  in: 'Inches',
  ft: 'Feet',
};

/** Size, unit, up-axis and scene, shown with their evidence and corrected before anything is saved. */
export function Review({
  preview,
  onPreview,
  leave,
}: {
  preview: Preview;
  onPreview: (p: Preview) => void;
  leave: () => void;
}) {
  const { project, adopt } = useProject();
  const refreshLibrary = useLibraryRefresh();
  const close = usePanels((s) => s.close);
  const unit = project!.unit;
  const [choice, setChoice] = useState<Choice>({
    scene: preview.scene,
    unitMm: preview.evidence.guesses[0].unitMm,
    upAxis: preview.evidence.up.axis,
  });
  const [saving, setSaving] = useState(false);
  /** Millimetres per file unit the shown meshes were made with. */
  const [meshUnit, setMeshUnit] = useState(preview.evidence.guesses[0].unitMm);
  const [version, setVersion] = useState(0);
  const [measured, setMeasured] = useState<number | null>(null);

  async function lookAgain(next: Choice) {
    setChoice(next);
    try {
      onPreview(await call('POST /api/uploads/{id}', { id: preview.upload, body: { ...next } }));
      setMeshUnit(next.unitMm);
      setVersion((v) => v + 1);
    } catch (e) {
      toast.error('That cannot be shown', { description: messageOf(e) });
    }
  }

  async function bringIn() {
    setSaving(true);
    try {
      const result = await call('POST /api/projects/{id}/models', {
        id: project!.id,
        body: { upload: preview.upload, ...choice },
      });
      adopt(result);
      void refreshLibrary();
      close();
    } catch (e) {
      toast.error('The model could not come in', { description: messageOf(e) });
      setSaving(false);
    }
  }

  const size = shownSize(preview, choice);
  return (
    <div className="flex min-h-0 flex-1">
      <Stage
        key={preview.upload}
        preview={preview}
        version={version}
        scale={choice.unitMm / meshUnit}
        onMeasured={setMeasured}
      />
      <aside aria-label="Check the model" className="hair flex w-[400px] shrink-0 flex-col border-l bg-base-100">
        <div className="min-h-0 flex-1 overflow-auto p-4">
          <h1 className="text-lg font-semibold">Is it this large?</h1>
          <p className="quiet mb-3 truncate" title={preview.file}>
            {preview.file}: {contentsOf(preview)}
          </p>

          <div className="grid grid-cols-3 gap-2">
            {(['East to west', 'Height', 'North to south'] as const).map((label, i) => (
              <RealSize
                key={label}
                label={label}
                mm={size[i] * choice.unitMm}
                unit={unit}
                onReal={(mm) => setChoice({ ...choice, unitMm: mm / size[i] })}
              />
            ))}
          </div>
          <p className="quiet mt-1 text-2xs">
            Wrong? Type what one of them really is, or click two points in the picture and say how far apart they are.
          </p>
          {measured !== null && (
            <div className="card-panel mt-2 flex items-end gap-2 p-2">
              <Ruler size={15} className="mb-1.5 text-primary" />
              <RealSize
                label="Between the two points"
                mm={measured * (choice.unitMm / meshUnit)}
                unit={unit}
                onReal={(mm) => setChoice({ ...choice, unitMm: (mm / measured) * meshUnit })}
              />
            </div>
          )}

          <h2 className="mt-4 mb-1 font-semibold">One unit of the file is</h2>
          <ul className="flex flex-col gap-1">
            {preview.evidence.guesses.map((g, i) => (
              <li key={g.unit}>
                <label
                  className={
                    'card-panel flex cursor-pointer items-start gap-2 p-2 ' +
                    `${Math.abs(choice.unitMm - g.unitMm) < 1e-9 ? 'border-primary' : ''}`
                  }
                >
                  <input
                    type="radio"
                    name="unit"
                    className="radio radio-xs mt-0.5"
                    checked={Math.abs(choice.unitMm - g.unitMm) < 1e-9}
                    onChange={() => setChoice({ ...choice, unitMm: g.unitMm })}
                  />
                  <span className="min-w-0">
                    <span className="font-medium">
                      {UNIT_NAMES[g.unit].replace(/s$/, '').replace('Inche', 'Inch').replace('Feet', 'Foot')}
                    </span>
                    {i === 0 && <span className="text-success ml-2 text-2xs">most likely</span>}
                    <span className="quiet block text-2xs leading-snug">{g.evidence.join('; ')}</span>
                  </span>
                </label>
              </li>
            ))}
            {!preview.evidence.guesses.some((g) => Math.abs(choice.unitMm - g.unitMm) < 1e-9) && (
              <li className="card-panel num border-primary p-2 text-2xs">
                Corrected: one unit is {choice.unitMm.toPrecision(6)} mm
              </li>
            )}
          </ul>

          <h2 className="mt-4 mb-1 font-semibold">Up</h2>
          <div className="flex items-center gap-2">
            {(['y', 'z'] as const).map((axis) => (
              <button
                key={axis}
                type="button"
                className="tool tool-line"
                aria-pressed={choice.upAxis === axis}
                onClick={() => void lookAgain({ ...choice, upAxis: axis })}
              >
                {axis} is up
              </button>
            ))}
            <span className="quiet text-2xs leading-tight">{preview.evidence.up.evidence.join('; ')}</span>
          </div>

          {preview.scenes.length > 1 && (
            <label className="mt-4 block">
              <span className="mb-1 block font-semibold">Scene</span>
              <select
                className="field"
                value={choice.scene}
                onChange={(e) => void lookAgain({ ...choice, scene: Number(e.target.value) })}
              >
                {preview.scenes.map((s, i) => (
                  <option key={i} value={i}>
                    {s}
                  </option>
                ))}
              </select>
            </label>
          )}
          <Remarks remarks={preview.remarks} missing={preview.missingPictures} />
        </div>
        <footer className="hair flex justify-end gap-2 border-t p-3">
          <button type="button" className="tool" onClick={leave}>
            Leave it out
          </button>
          <button type="button" className="tool tool-main" disabled={saving} onClick={() => void bringIn()}>
            {saving ? 'Bringing it in…' : 'Bring it in'}
          </button>
        </footer>
      </aside>
    </div>
  );
}

/** Overall size in file units, east, up, south, for the chosen up-axis. */
function shownSize(preview: Preview, choice: Choice): [number, number, number] {
  const [x, y, z] = preview.evidence.size;
  return choice.upAxis === preview.evidence.up.axis ? [x, y, z] : [x, z, y];
}

function RealSize({
  label,
  mm,
  unit,
  onReal,
}: {
  label: string;
  mm: number;
  unit: Parameters<typeof parseLength>[1];
  onReal: (mm: number) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const commit = () => {
    if (text === null) return;
    const parsed = parseLength(text, unit);
    if (!parsed.ok || parsed.value <= 0) return setError(parsed.ok ? 'it must be above zero' : parsed.error);
    setError(null);
    setText(null);
    onReal(parsed.value);
  };
  return (
    <label className="block min-w-0 flex-1">
      <span className="quiet mb-0.5 block truncate text-2xs">{label}</span>
      <input
        className="field num"
        value={text ?? formatLength(mm, unit, { decimals: unit === 'mm' ? 1 : 3 })}
        aria-invalid={!!error}
        onFocus={(e) => e.currentTarget.select()}
        onChange={(e) => setText(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => (e.key === 'Enter' ? commit() : e.key === 'Escape' && setText(null))}
      />
      {error && (
        <span role="alert" className="text-error text-2xs">
          {error}
        </span>
      )}
    </label>
  );
}

function Remarks({ remarks, missing }: { remarks: Remark[]; missing: string[] }) {
  const groups = (['repaired', 'left out', 'missing', 'note'] as const).map(
    (kind) => [kind, remarks.filter((r) => r.kind === kind).map((r) => r.text)] as const,
  );
  const titles = { repaired: 'Repaired', 'left out': 'Left out', missing: 'Missing', note: 'Worth knowing' };
  const shown = groups
    .map(
      ([kind, texts]) =>
        [
          kind,
          kind === 'missing' && missing.length
            ? [...texts, ...missing.map((m) => `the picture ${m}; bring it now in the same drop, or later`)]
            : texts,
        ] as const,
    )
    .filter(([, texts]) => texts.length);
  if (!shown.length) return <p className="text-success mt-4">Nothing had to be repaired or left out.</p>;
  return (
    <div className="mt-4 flex flex-col gap-2">
      {shown.map(([kind, texts]) => (
        <section key={kind}>
          <h2 className="font-semibold">{titles[kind]}</h2>
          <ul className="quiet list-disc pl-4">
            {texts.map((t) => (
              <li key={t}>{t}</li>
            ))}
          </ul>
        </section>
      ))}
    </div>
  );
}

const contentsOf = ({ parts, surfaces, triangles }: Preview) =>
  `${parts} parts, ${surfaces} surfaces, ${triangles.toLocaleString('en')} triangles`;
