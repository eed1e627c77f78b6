'use client';

import { Ruler } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import type { UnitGuess } from '@/core/mesh/evidence/weigh';
import { useLibraryRefresh } from '../materials/useLibrary';
import { usePanels } from '../project/panels';
import { useProject } from '../project/projectStore';
import { call, messageOf } from '../shared/api';
import type { KnownMaterial, Preview } from '@/api/answers';
import { JoinFields } from './JoinFields';
import { KnownMaterials } from './KnownMaterials';
import { RealSize } from './RealSize';
import { Remarks } from './Remarks';
import { Stage } from './Stage';

/** What is to be made of the file. */
interface Choice {
  scene: number;
  unitMm: number;
  upAxis: 'y' | 'z';
  creaseDeg: number;
  weldMm: number;
  known: KnownMaterial;
}

const UNIT_NAMES: Record<UnitGuess['unit'], string> = {
  mm: 'Millimetre',
  cm: 'Centimetre',
  m: 'Metre',
  in: 'Inch',
  ft: 'Foot',
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
    creaseDeg: preview.joins.creaseDeg,
    weldMm: preview.joins.weldMm,
    known: 'another',
  });
  /** What is a tie is asked: nothing comes in before it is answered. */
  const [asks, setAsks] = useState({ unit: preview.evidence.tie, up: preview.evidence.up.tie });
  const chooseUnit = (unitMm: number) => {
    setAsks((a) => ({ ...a, unit: false }));
    setChoice({ ...choice, unitMm });
  };
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
                onReal={(mm) => chooseUnit(mm / size[i])}
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
                onReal={(mm) => chooseUnit((mm / measured) * meshUnit)}
              />
            </div>
          )}

          <h2 className="mt-4 mb-1 font-semibold">One unit of the file is</h2>
          {asks.unit && (
            <p role="status" className="asks mb-1">
              Nothing in the file settles it. Choose the one whose sizes are right, or type a size you know above.
            </p>
          )}
          <ul className="flex flex-col gap-1">
            {preview.evidence.guesses.map((g, i) => (
              <li key={g.unit}>
                <label
                  className={
                    'card-panel flex cursor-pointer items-start gap-2 p-2 ' +
                    `${!asks.unit && isUnit(choice, g) ? 'border-primary' : ''}`
                  }
                >
                  <input
                    type="radio"
                    name="unit"
                    className="radio radio-xs mt-0.5"
                    checked={!asks.unit && isUnit(choice, g)}
                    onChange={() => chooseUnit(g.unitMm)}
                  />
                  <span className="min-w-0">
                    <span className="font-medium">{UNIT_NAMES[g.unit]}</span>
                    <span className={`ml-2 text-2xs ${i === 0 && preview.evidence.certain ? 'text-success' : 'quiet'}`}>
                      {likelihood(preview.evidence, i)}
                    </span>
                    <span className="quiet block text-2xs leading-snug">
                      {(g.confidence < 0.01 ? g.evidence.slice(0, 1) : g.evidence).join('; ')}
                    </span>
                  </span>
                </label>
              </li>
            ))}
            {!preview.evidence.guesses.some((g) => isUnit(choice, g)) && (
              <li className="card-panel num border-primary p-2 text-2xs">
                Corrected: one unit is {choice.unitMm.toPrecision(6)} mm
              </li>
            )}
          </ul>

          <h2 className="mt-4 mb-1 font-semibold">Up</h2>
          {asks.up && (
            <p role="status" className="asks mb-1">
              Both are possible. Choose the one that stands right in the picture.
            </p>
          )}
          <div className="flex items-center gap-2">
            {(['y', 'z'] as const).map((axis) => (
              <button
                key={axis}
                type="button"
                className="tool tool-line"
                aria-pressed={!asks.up && choice.upAxis === axis}
                onClick={() => {
                  setAsks((a) => ({ ...a, up: false }));
                  if (axis !== choice.upAxis) void lookAgain({ ...choice, upAxis: axis });
                }}
              >
                {axis} is up
              </button>
            ))}
            <span className="quiet text-2xs leading-tight">{preview.evidence.up.evidence.join('; ')}</span>
          </div>

          <JoinFields
            joins={preview.joins}
            surfaces={preview.surfaces}
            unit={unit}
            onChange={(joins) => void lookAgain({ ...choice, ...joins })}
          />

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
          <KnownMaterials
            known={preview.known}
            value={choice.known}
            onChange={(known) => setChoice({ ...choice, known })}
          />
          <Remarks remarks={preview.remarks} missing={preview.missingPictures} />
        </div>
        <footer className="hair flex justify-end gap-2 border-t p-3">
          <button type="button" className="tool" onClick={leave}>
            Leave it out
          </button>
          <button
            type="button"
            className="tool tool-main"
            disabled={saving || asks.unit || asks.up}
            title={asks.unit ? 'Choose the unit first' : asks.up ? 'Choose what is up first' : undefined}
            onClick={() => void bringIn()}
          >
            {saving ? 'Bringing it in…' : 'Bring it in'}
          </button>
        </footer>
      </aside>
    </div>
  );
}

const isUnit = (choice: Choice, g: UnitGuess) => Math.abs(choice.unitMm - g.unitMm) < 1e-9;

/** How likely a unit is, in words; a certain one needs no number. */
function likelihood({ guesses, certain, tie }: Preview['evidence'], n: number): string {
  const percent = Math.round(guesses[n].confidence * 100);
  if (n === 0 && certain) return 'certain';
  if (n === 0 && !tie) return `most likely, ${percent}%`;
  return percent ? `${percent}%` : 'not likely';
}

/** Overall size in file units, east, up, south, for the chosen up-axis. */
function shownSize(preview: Preview, choice: Choice): [number, number, number] {
  const [x, y, z] = preview.evidence.size;
  return choice.upAxis === preview.evidence.up.axis ? [x, y, z] : [x, z, y];
}

const contentsOf = ({ parts, surfaces, triangles }: Preview) =>
  `${parts} parts, ${surfaces} surfaces, ${triangles.toLocaleString('en')} triangles`;
