import path from 'node:path';
import type { MessagePort } from 'node:worker_threads';
import type { Shot } from '@/core/picture/camera';
import type { Prep } from '@/core/prep/schema';
import type { Project } from '@/core/project/schema';
import { type DrawingTask, readDrawing } from '@/core/drawing/readDrawing';
import { folder, putBlob, writeFlushed } from '../store/data';
import { ExportFolder, exportWork } from '../exporting/exportFolder';
import { type ExportOptions, exportProject } from '../exporting/exportTasks';
import { type PreparedForStore, prepareForStore, previewModel } from '../importing/modelTasks';
import { type LayingTask, laySheet, listPieces } from '../laying/layingTasks';
import { measureBaseColour } from '../library/measureTask';
import { makePrep, photograph } from '../prep/prepTask';
import { asProblem } from '../http/problem';
import { proposeRevision } from '../importing/revisionTask';
import { roomsOf, type RoomsTask } from '../laying/roomsTask';
import { type TraceOptions, traceStill } from '../stills/traceStill';
import { pushStored, type PushTask } from '../laying/pushTask';

/**
 * What runs on the server's worker threads. Each task answers with plain data; errors come back as data too, since
 * classes do not survive the way between threads.
 */

export type Answer<T> =
  { ok: T } | { problem: { status: number; title: string; detail: string; extra: Record<string, unknown> } };

async function answer<T>(work: () => Promise<T>): Promise<Answer<T>> {
  try {
    return { ok: await work() };
  } catch (error) {
    const { status, title, detail, extra } = asProblem(error);
    return { problem: { status, title, detail, extra } };
  }
}

type Source = { folder: string; files: string[] };

export const preview = (task: { source: Source; choice: Parameters<typeof previewModel>[1] }) =>
  answer(async () => {
    const { preview, meshes } = await previewModel(task.source, task.choice);
    await writeFlushed(path.join(task.source.folder, '..', `${path.basename(task.source.folder)}.mesh`), meshes);
    return preview;
  });

export type Stored = Omit<PreparedForStore, 'meshes' | 'pictures'> & {
  mesh: string;
  unitMm: number;
  upAxis: 'y' | 'z';
  pictures: PreparedForStore['pictures'];
};

export const prepare = (task: { source: Source; choice: Parameters<typeof prepareForStore>[1] }) =>
  answer(async (): Promise<Stored> => {
    const { meshes, ...rest } = await prepareForStore(task.source, task.choice);
    return { ...rest, mesh: await putBlob(meshes) };
  });

export const revise = (task: {
  source: Source;
  choice: Parameters<typeof prepareForStore>[1];
  project: Project;
  model: string;
  decided: Record<number, string | null>;
  /** It is taken, so that what its pictures are is wanted, too. */
  takes: boolean;
  file: string;
}) =>
  answer(async () => {
    const { meshes, ...rest } = await prepareForStore(task.source, task.choice);
    const prepared = { ...rest, mesh: await putBlob(meshes), meshes: [] };
    const pictures = task.takes ? prepared.pictures : [];
    return proposeRevision({ ...prepared, pictures }, task.project, task.model, task.decided, task.file);
  });

/** A model's meshes with faces of one pushed, stored; and every asked surface of that part as it is then. */
export const pushing = (task: PushTask) => answer(() => pushStored(task));

export const pieces = (task: LayingTask) => answer(() => listPieces(task));

export const drawing = (task: DrawingTask) => answer(() => Promise.resolve(readDrawing(task)));
export const rooms = (task: RoomsTask) => answer(() => roomsOf(task));

export const sheet = (task: LayingTask) => answer(() => laySheet(task));

export const preparing = (task: { prep: Prep; port: MessagePort }) =>
  answer(() => makePrep(task.prep, (share, message) => task.port.postMessage({ share, message })));

export const measuring = (task: { hash: string }) => answer(() => measureBaseColour(task.hash));

/** A photograph by the simulated camera, as PNG. */
export const photographing = (task: { ground: string; shot: Shot }) => answer(() => photograph(task.ground, task.shot));

/** A traced still as PNG, and how many rays each of its pixels had. */
export const tracing = (task: { job: string; project: Project; options: TraceOptions; port: MessagePort }) =>
  answer(() => traceStill(task.job, task.project, task.options, task.port));

export const exporting = (task: { job: string; project: Project; options: ExportOptions; port: MessagePort }) =>
  answer(async () => {
    const work = new ExportFolder(exportWork(task.job));
    try {
      return await exportProject(
        task.project,
        task.options,
        work,
        path.join(folder('exports'), task.job),
        (share, message) => task.port.postMessage({ share, message }),
      );
    } finally {
      await work.clear();
    }
  });
