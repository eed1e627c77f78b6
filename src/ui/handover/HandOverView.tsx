'use client';

import { wrap } from 'comlink';
import { CircleCheck, CircleX, Download, FileBox, LoaderCircle } from 'lucide-react';
import { useRef, useState } from 'react';
import type { ValidationReport } from 'gltf-validator';
import { EXPORT_FORMATS, type ExportKind, exportFormatOf } from '@/core/formats/exportFormats';
import { laidAlone } from '@/core/project/runs';
import type { Project } from '@/core/project/schema';
import { formatArea, formatLength } from '@/core/units/length';
import type { ValidateService } from '@/workers/validate.worker';
import { Swatch } from '../materials/Swatch';
import { ForTheDesigner } from '../project/ForTheDesigner';
import { useProject } from '../project/projectStore';
import type { Job } from '@/api/answers';
import { followJob } from '../shared/followJob';
import { call, messageOf, urlOf } from '../shared/api';
import { type MaterialRow, useMaterialsLaid } from './useMaterialsLaid';

const TABLE = 'mx-auto grid min-h-0 w-full max-w-6xl flex-1 grid-cols-[minmax(0,1fr)_380px] gap-6 overflow-auto p-6';

/** What is larger is not fetched to be looked at once more: the server has checked it in parts. */
const MOST_CHECKED = 256e6;

type Check =
  | { state: 'running' }
  | { state: 'server' }
  | { state: 'done'; report: ValidationReport }
  | { state: 'failed'; message: string };

const megabytes = (bytes: number) =>
  bytes > 1e6 ? `${(bytes / 1e6).toFixed(1)} MB` : `${Math.max(1, Math.round(bytes / 1e3))} kB`;

/** A material laid at a size that nobody has confirmed. */
const isGuess = (row: MaterialRow, { materials }: Project): boolean => {
  const { sizeAssumed, widthMm } = materials[row.material];
  return !!sizeAssumed && row.widthMm === widthMm;
};

/** Writing the dressed scene, and the validator's word on it before it is offered. */
export function HandOverView() {
  const project = useProject((s) => s.project)!;
  const [format, setFormat] = useState<ExportKind>('glb');
  const [pictureSize, setPictureSize] = useState<number | null>(null);
  const [share, setShare] = useState(false);
  const [job, setJob] = useState<Job | null>(null);
  const [check, setCheck] = useState<Check | null>(null);
  const [error, setError] = useState<string | null>(null);
  const worker = useRef<Worker | null>(null);

  const rows = useMaterialsLaid(project);
  const surfaces = laidAlone(project);
  const bare = surfaces.filter((s) => !s.spec).length;

  async function write() {
    setError(null);
    setCheck(null);
    try {
      const started = await call('POST /api/projects/{id}/exports', {
        id: project.id,
        body: { format, options: { pictureSize, share } },
      });
      setJob(started);
      followJob(started.id, (next) => {
        setJob(next);
        if (next.state === 'done' && exportFormatOf(format).checked) {
          if ((next.result?.bytes ?? 0) > MOST_CHECKED) setCheck({ state: 'server' });
          else void validate(next);
        } else if (next.state === 'failed') setError(next.message);
      });
    } catch (e) {
      setError(messageOf(e));
    }
  }

  async function validate(done: Job) {
    setCheck({ state: 'running' });
    worker.current = new Worker(new URL('../../workers/validate.worker.ts', import.meta.url), {
      type: 'module',
      name: 'validator',
    });
    try {
      const bytes = new Uint8Array(
        await (await fetch(urlOf('GET /api/jobs/{id}/file', { id: done.id }))).arrayBuffer(),
      );
      const report = await wrap<ValidateService>(worker.current).validate(bytes, done.result!.file!.endsWith('.zip'));
      setCheck({ state: 'done', report });
    } catch (e) {
      setCheck({ state: 'failed', message: messageOf(e) });
    } finally {
      worker.current?.terminate();
    }
  }

  const stopCheck = () => {
    worker.current?.terminate();
    setCheck({ state: 'failed', message: 'The check was cancelled.' });
  };

  const running = job?.state === 'running' || job?.state === 'queued';
  return (
    <div className={TABLE}>
      <section aria-label="What will be written" className="min-w-0">
        <h1 className="text-xl font-semibold">Hand over {project.name}</h1>
        <p className="quiet mt-1 mb-4">
          {surfaces.length} surfaces in {Object.keys(project.parts).length} parts, in metres, y up, hierarchy and names
          kept. Every material repeats at its real size in any viewer.
          {bare > 0 && ` ${bare} bare surfaces go out in their plain colour.`}
        </p>
        <table className="w-full">
          <thead>
            <tr className="hair quiet border-b text-left text-2xs">
              <th className="py-1 font-normal">Material, and how it is laid</th>
              <th className="pl-4 text-right font-normal">Picture, as laid</th>
              <th className="pl-4 text-right font-normal">Surfaces</th>
              <th className="pl-4 text-right font-normal">Area</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((r) => (
              <tr key={`${r.material}${r.pieces}${r.widthMm}${r.heightMm}`} className="hair border-b">
                <td className="py-1">
                  <span className="flex items-center gap-2">
                    <Swatch material={project.materials[r.material]} size={26} mm={400} />
                    <span>
                      {project.materials[r.material].name}
                      <span className="quiet block text-2xs">{r.pieces ?? 'the whole picture'}</span>
                    </span>
                  </span>
                </td>
                <td className="num pl-4 text-right text-2xs whitespace-nowrap">
                  {formatLength(r.widthMm, project.unit, { withUnit: project.unit === 'ft-in' })} ×{' '}
                  {formatLength(r.heightMm, project.unit)}
                  {isGuess(r, project) && (
                    <span
                      className="text-warning ml-1"
                      title="Nothing said how large its picture is: confirm it in Materials"
                    >
                      a guess
                    </span>
                  )}
                </td>
                <td className="num pl-4 text-right text-2xs whitespace-nowrap">{r.surfaces}</td>
                <td className="num pl-4 text-right text-2xs whitespace-nowrap">
                  {formatArea(r.areaMm2, project.unit)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <div className="mt-4">
          <ForTheDesigner project={project} />
        </div>
        {!rows.length && (
          <p className="quiet py-6 text-center">Nothing is laid yet. What is handed over would be bare.</p>
        )}
      </section>
      <aside aria-label="Write" className="flex flex-col gap-4">
        <fieldset className="card-panel flex flex-col gap-2 p-4">
          <legend className="sr-only">Format</legend>
          {EXPORT_FORMATS.map(({ kind: value, label, hint: text }) => (
            <label key={value} className="flex cursor-pointer items-start gap-2">
              <input
                type="radio"
                name="format"
                className="radio radio-xs mt-0.5"
                checked={format === value}
                onChange={() => setFormat(value)}
              />
              <span>
                <span className="font-medium">{label}</span>
                <span className="quiet block text-2xs">{text}</span>
              </span>
            </label>
          ))}
          <label className="mt-1 block">
            <span className="quiet mb-0.5 block text-2xs">Pictures</span>
            <select
              className="field"
              value={pictureSize ?? ''}
              onChange={(e) => setPictureSize(e.target.value ? Number(e.target.value) : null)}
            >
              <option value="">as large as they are</option>
              {[2048, 1024, 512].map((s) => (
                <option key={s} value={s}>
                  at most {s} px
                </option>
              ))}
            </select>
          </label>
          {exportFormatOf(format).shares && (
            <label className="mt-1 flex cursor-pointer items-start gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-xs mt-0.5"
                checked={share}
                onChange={(e) => setShare(e.target.checked)}
              />
              <span>
                Equal whole pieces share geometry
                <span className="quiet block text-2xs">
                  A smaller file, by EXT_mesh_gpu_instancing; what reads it must know that extension.
                </span>
              </span>
            </label>
          )}
          <button
            type="button"
            className="tool tool-main mt-2 h-8 justify-center"
            disabled={running}
            onClick={() => void write()}
          >
            <FileBox size={15} /> Write the file
          </button>
        </fieldset>

        {running && job && (
          <div className="card-panel grid grid-cols-[1fr_auto] items-center gap-x-3 gap-y-1 p-3" role="status">
            <span className="quiet col-span-2 truncate text-2xs">{job.message}</span>
            <progress className="progress progress-primary" max={1} value={job.progress} aria-label="Writing" />
            <button type="button" className="tool" onClick={() => void call('DELETE /api/jobs/{id}', { id: job.id })}>
              Cancel
            </button>
          </div>
        )}
        {job?.state === 'cancelled' && <p className="quiet">Cancelled. Nothing was kept.</p>}
        {error && (
          <p role="alert" className="text-error">
            {error}
          </p>
        )}
        {job?.state === 'done' && job.result && (
          <div className="card-panel flex flex-col gap-3 p-4">
            <p className="flex items-baseline gap-2">
              <strong className="truncate">{job.result.file}</strong>
              <span className="num quiet ml-auto text-2xs">{megabytes(job.result.bytes ?? 0)}</span>
            </p>
            <Verdict check={check} cancel={stopCheck} />
            {(!exportFormatOf(format).checked || (check && check.state !== 'running')) && (
              <a
                className="tool tool-main h-8 justify-center"
                href={urlOf('GET /api/jobs/{id}/file', { id: job.id })}
                download
              >
                <Download size={15} /> Save it
              </a>
            )}
          </div>
        )}
      </aside>
    </div>
  );
}

function Verdict({ check, cancel }: { check: Check | null; cancel: () => void }) {
  if (!check) return null;
  if (check.state === 'running') {
    return (
      <p className="quiet flex items-center gap-2" role="status">
        <LoaderCircle size={15} className="animate-spin" /> The glTF validator is reading it…
        <button type="button" className="tool ml-auto" onClick={cancel}>
          Cancel
        </button>
      </p>
    );
  }
  if (check.state === 'server') {
    return (
      <p className="text-success flex items-center gap-2" data-testid="verdict">
        <CircleCheck size={16} /> The glTF validator found no error in any part.
      </p>
    );
  }
  if (check.state === 'failed') return <p className="text-warning">Not checked: {check.message}</p>;
  const { issues, validatorVersion } = check.report;
  const clean = issues.numErrors + issues.numWarnings === 0;
  return (
    <div>
      <p className={`flex items-center gap-2 ${clean ? 'text-success' : 'text-error'}`} data-testid="verdict">
        {clean ? <CircleCheck size={16} /> : <CircleX size={16} />}
        {issues.numErrors} errors, {issues.numWarnings} warnings
      </p>
      <p className="quiet text-2xs">
        Standard glTF validator {validatorVersion}; {issues.numInfos} remarks for information
      </p>
      {!clean && (
        <ul className="mt-1 list-disc pl-4 text-2xs">
          {issues.messages
            .filter((m) => m.severity < 2)
            .slice(0, 10)
            .map((m, i) => (
              <li key={i}>
                {m.message} {m.pointer}
              </li>
            ))}
        </ul>
      )}
    </div>
  );
}
