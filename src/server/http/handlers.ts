import { sessions } from '../front/sessions';
import { readBody } from './body';
import { signIn, signOut } from './session';
import { createReadStream } from 'node:fs';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { Readable } from 'node:stream';
import { sql } from 'kysely';
import { moduleAsSvg } from '@/core/drawing/writeSvg';
import { fileNameOf } from '@/core/schema/nameFrom';
import { readRole } from '@/core/material/roles';
import pkg from '../../../package.json';
import { bringPictures, importModel, readChoice } from '../importing/importModel';
import { knownMaterials } from '../importing/materialsOfSlots';
import { reviseModel } from '../importing/revising';
import { dropUpload, openUpload, readPreviewMesh, type Upload } from '../importing/uploads';
import {
  cancelJob,
  dropJobsOf,
  enough,
  jobFile,
  readJob,
  seenOf,
  startExport,
  startPrep,
  startStill,
  watchJob,
} from '../jobs/jobs';
import { readingSeconds, runTask } from '../jobs/pool';
import { pushPart } from '../laying/pushing';
import { describePieces, describeRooms, describeSheet } from '../laying/sheets';
import { receiveMaterials, replacePicture } from '../library/materialDrops';
import {
  blankMaterial,
  createMaterial,
  deleteMaterial,
  editMaterial,
  listMaterials,
  readMaterial,
  restoreMaterial,
} from '../library/materials';
import { createModule, deleteModule, listModules, readModule, renameModule, restoreModule } from '../library/modules';
import { writeMaterialZip } from '../library/materialZip';
import {
  changePrep,
  deletePrep,
  goToInPrep,
  listPreps,
  namePrepEntry,
  prepHistory,
  readPrep,
  receivePreps,
  redoPrep,
  simulatePrep,
  undoPrep,
} from '../prep/preps';
import { blobSize, streamBlob } from '../store/data';
import { database, SCHEMA_VERSION } from '../store/database';
import { imageRow, serveImage, SERVED, storeImage } from '../store/images';
import {
  changeProject,
  createProject,
  deleteProject,
  duplicateProject,
  goTo,
  listHistory,
  projectAt,
  listProjects,
  nameHistoryEntry,
  readProject,
  redoProject,
  restoreProject,
  undoProject,
  whereLaid,
} from '../store/projects';
import { missingAtStart } from '../store/missing';
import { dropStill, hasStill, keptStill, MOST_STILL, readStill, storeStill } from '../store/stills';
import { describeApi } from './openapi';
import { badField, notFound } from './problem';
import type { Moved } from '@/api/answers';
import type { Handlers } from './serve';

const FOREVER = 'max-age=31536000, immutable';
const stream = (from: Readable) => Readable.toWeb(from) as ReadableStream;
const bytesOf = (bytes: Uint8Array, type: string, caching = 'no-store') =>
  new Response(new Uint8Array(bytes), { headers: { 'content-type': type, 'cache-control': caching } });

/** Whether a picture closes on itself, as it is measured. @throws Problem where there is no such picture */
async function closes(hash: string): Promise<{ seamless: boolean }> {
  await imageRow(hash);
  return { seamless: (await runTask('measuring', { hash })).seamless };
}

async function preview(upload: Upload, choice: ReturnType<typeof readChoice>, signal: AbortSignal) {
  const source = { folder: upload.folder, files: upload.files };
  const found = await runTask('preview', { source, choice }, { signal, seconds: readingSeconds(upload.bytes) });
  const pictured = found.slots.filter((s) => s.pictures).map((s) => s.name);
  return { upload: upload.id, ...found, known: await knownMaterials(pictured) };
}

/** Server-sent events: the job, at every change. */
async function jobEvents(id: string, signal: AbortSignal): Promise<Response> {
  await readJob(id);
  const left = new AbortController();
  signal.addEventListener('abort', () => left.abort());
  const events = new ReadableStream({
    async start(controller) {
      const encoder = new TextEncoder();
      const say = (job: unknown) => controller.enqueue(encoder.encode(`data: ${JSON.stringify(job)}\n\n`));
      try {
        await watchJob(id, say, left.signal);
        if (!left.signal.aborted) controller.close();
      } catch (error) {
        controller.error(error);
      }
    },
    cancel: () => left.abort(),
  });
  return new Response(events, { headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store' } });
}

/** What is sent after a step in a history: the difference, not the document. */
const stepOf = ({ revision, canUndo, canRedo, patch }: Moved): Moved => ({ revision, canUndo, canRedo, patch });

/** What each call does; transport is in `serve.ts`, the work in the folders beside. */
export const HANDLERS: Handlers = {
  'GET /api/health': async () => {
    await sql`select 1`.execute(database());
    const notices = (await missingAtStart()).map(({ sentence }) => sentence);
    return { status: 'ok', version: pkg.version, schemaVersion: SCHEMA_VERSION, asks: sessions() !== null, notices };
  },
  'GET /api/openapi.json': () => describeApi(),
  'POST /api/session': ({ body, request }) => signIn(body, request),
  'DELETE /api/session': ({ request }) => signOut(request),

  'GET /api/projects': ({ query }) => listProjects(query.deleted === 'true', hasStill),
  'POST /api/projects': ({ body }) =>
    body.copyOf ? duplicateProject(body.copyOf) : createProject(body.name ?? 'New project'),
  'GET /api/projects/{id}': ({ params }) => readProject(params.id),
  'PATCH /api/projects/{id}': async ({ params: { id }, body }) => {
    if (body.deleted === false) await restoreProject(id);
    const opened = await readProject(id);
    if (body.name === undefined) return opened;
    return changeProject(id, opened.revision, [{ kind: 'setProject', name: body.name }]);
  },
  'DELETE /api/projects/{id}': async ({ params, query }) => {
    const forever = query.forever === 'true';
    await deleteProject(params.id, forever);
    if (forever) await Promise.all([dropJobsOf(params.id), dropStill(params.id)]);
    return undefined;
  },
  'POST /api/projects/{id}/changes': async ({ params, body }) => {
    const { baseRevision, commands, gesture } = body;
    const { revision, canUndo, canRedo } = await changeProject(params.id, baseRevision, commands, gesture);
    return { revision, canUndo, canRedo };
  },
  'POST /api/projects/{id}/undo': async ({ params, body }) => stepOf(await undoProject(params.id, body.baseRevision)),
  'POST /api/projects/{id}/redo': async ({ params, body }) => stepOf(await redoProject(params.id, body.baseRevision)),
  'GET /api/projects/{id}/history': ({ params }) => listHistory(params.id),
  'POST /api/projects/{id}/history': async ({ params, body }) =>
    stepOf(await goTo(params.id, body.baseRevision, body.entry)),
  'GET /api/projects/{id}/history/{entry}': async ({ params }) => ({
    project: await projectAt(params.id, params.entry === 'start' ? null : params.entry),
  }),
  'PATCH /api/projects/{id}/history/{entry}': async ({ params, body }) => {
    await nameHistoryEntry(params.id, params.entry, body.name);
    return undefined;
  },
  'GET /api/projects/{id}/stills/{still}': async ({ params, query }) => {
    const as = query.as ?? 'png';
    return bytesOf(await keptStill(params.id, params.still, as, Number(query.quality ?? 92)), `image/${as}`);
  },
  'GET /api/projects/{id}/still': async ({ params }) => bytesOf(await readStill(params.id), 'image/jpeg', 'no-cache'),
  'PUT /api/projects/{id}/still': async ({ params, request }) => {
    await storeStill(params.id, await readBody(request, MOST_STILL));
    return undefined;
  },

  'POST /api/uploads': async ({ upload, request }) => {
    const found = await preview(upload, readChoice(upload.fields), request.signal);
    upload.kept = true;
    return found;
  },
  'POST /api/uploads/{id}': async ({ params, body, request }) =>
    preview(await openUpload(params.id), readChoice(body), request.signal),
  'DELETE /api/uploads/{id}': async ({ params }) => {
    await dropUpload((await openUpload(params.id)).id);
    return undefined;
  },
  'GET /api/uploads/{id}/mesh': async ({ params }) =>
    bytesOf(await readPreviewMesh(params.id), 'application/octet-stream'),

  'POST /api/projects/{id}/models': async ({ params: { id }, body, upload, request }) => {
    await readProject(id);
    if (!body) return importModel(id, upload, readChoice(upload.fields), request.signal);
    return importModel(id, await openUpload(body.upload), readChoice(body), request.signal);
  },
  'GET /api/projects/{id}/models/{model}/mesh': async ({ params }) => {
    const { models } = (await readProject(params.id)).project;
    if (!Object.hasOwn(models, params.model)) throw notFound('model', params.model);
    const { mesh } = models[params.model];
    return new Response(stream(streamBlob(mesh)), {
      headers: {
        'content-type': 'application/octet-stream',
        'content-length': String(await blobSize(mesh)),
        'cache-control': `private, ${FOREVER}`,
        etag: `"${mesh}"`,
      },
    });
  },
  'POST /api/projects/{id}/parts/{part}/push': ({ params: { id, part }, body }) => pushPart(id, part, body),
  'POST /api/projects/{id}/models/{model}/revision': async ({ params: { id, model }, body }) => {
    const { upload, decisions = {}, baseRevision = null, ...choice } = body;
    return reviseModel(id, model, await openUpload(upload), readChoice(choice), decisions, baseRevision);
  },
  'POST /api/projects/{id}/models/{model}/pictures': ({ params: { id, model }, upload }) =>
    bringPictures(id, model, Number(upload.fields.baseRevision), upload),

  'GET /api/projects/{id}/rooms': ({ params }) => describeRooms(params.id),
  'GET /api/projects/{id}/surfaces/{surface}/sheet': ({ params }) => describeSheet(params.id, params.surface),
  'GET /api/projects/{id}/surfaces/{surface}/pieces': ({ params }) => describePieces(params.id, params.surface),

  'POST /api/projects/{id}/exports': ({ params, body: { format, options } }) =>
    startExport(params.id, { format, pictureSize: options?.pictureSize ?? null, share: options?.share ?? false }),
  'POST /api/projects/{id}/stills': ({
    params,
    body: { eye, target, lensMm, goesOn, bounces = 4, smooth = true, ...rest },
  }) =>
    startStill(
      params.id,
      { ...rest, bounces, smooth, view: { eye, target, ...(lensMm ? { lensMm } : {}) } },
      goesOn ?? null,
    ),
  'POST /api/jobs/{id}/enough': async ({ params }) => {
    await enough(params.id);
    return undefined;
  },
  'GET /api/jobs/{id}/seen': async ({ params }) => bytesOf(await seenOf(params.id), 'image/jpeg', 'no-cache'),
  'GET /api/jobs/{id}': ({ params }) => readJob(params.id),
  'DELETE /api/jobs/{id}': async ({ params }) => {
    await cancelJob(params.id);
    return undefined;
  },
  'GET /api/jobs/{id}/events': ({ params, request }) => jobEvents(params.id, request.signal),
  'GET /api/jobs/{id}/file': async ({ params }) => {
    const { at, file, mime, bytes } = await jobFile(params.id);
    return new Response(stream(createReadStream(at)), {
      headers: {
        'content-type': mime,
        'content-length': String(bytes),
        'content-disposition': `attachment; filename="${file}"`,
      },
    });
  },

  'GET /api/materials': () => listMaterials(),
  'POST /api/materials': async ({ body, upload }) => {
    if (!body) return receiveMaterials(upload);
    const { name, widthMm, heightMm, ...rest } = body;
    // whether a picture closes is measured, unless somebody says so
    const seamless =
      rest.maps?.baseColour && rest.seamless === undefined ? await closes(rest.maps.baseColour.image) : {};
    return createMaterial({ ...blankMaterial(name, widthMm, heightMm), ...seamless, ...rest });
  },
  'GET /api/materials/{id}': async ({ params: { id }, query }) => {
    const material = await readMaterial(id, query.version === undefined ? undefined : Number(query.version));
    return { ...material, usedIn: await whereLaid(id) };
  },
  'PATCH /api/materials/{id}': async ({ params: { id }, body: { deleted, ...values } }) => {
    if (deleted === false) await restoreMaterial(id);
    return Object.keys(values).length ? editMaterial(id, values) : readMaterial(id);
  },
  'DELETE /api/materials/{id}': async ({ params }) => {
    await deleteMaterial(params.id);
    return undefined;
  },
  'POST /api/materials/{id}/maps': ({ params, upload }) => replacePicture(params.id, upload),
  'GET /api/materials/{id}/file': async ({ params, query: { quality, ...query } }) => {
    const { bytes, file } = await writeMaterialZip(params.id, {
      ...query,
      quality: quality === undefined ? undefined : Number(quality),
    });
    return new Response(bytes as BodyInit, {
      headers: { 'content-type': 'application/zip', 'content-disposition': `attachment; filename="${file}"` },
    });
  },

  'GET /api/modules': async () => {
    const modules = await listModules();
    return Promise.all(modules.map(async (module) => ({ module, usedIn: await whereLaid(module.id) })));
  },
  'POST /api/modules/read': ({ body, request }) =>
    runTask('drawing', body, { signal: request.signal, seconds: readingSeconds(body.text.length) }),
  'POST /api/modules': ({ body }) => createModule(body),
  'PATCH /api/modules/{id}': async ({ params, body: { deleted, name } }) => {
    if (deleted === false) await restoreModule(params.id);
    return name === undefined ? readModule(params.id) : renameModule(params.id, name);
  },
  'DELETE /api/modules/{id}': async ({ params }) => {
    await deleteModule(params.id);
    return undefined;
  },
  'GET /api/modules/{id}/file': async ({ params }) => {
    const module = await readModule(params.id);
    return new Response(moduleAsSvg(module), {
      headers: {
        'content-type': 'image/svg+xml',
        'content-disposition': `attachment; filename="${fileNameOf(module.name, 'module')}.svg"`,
      },
    });
  },

  'GET /api/preps': () => listPreps(),
  'POST /api/preps': ({ upload }) => receivePreps(upload),
  'POST /api/preps/simulated': ({ body }) => simulatePrep(body.ground, body.seed),
  'GET /api/preps/{id}': ({ params }) => readPrep(params.id),
  'POST /api/preps/{id}/changes': async ({ params, body: { baseRevision, commands, gesture } }) => {
    const { revision, canUndo, canRedo } = await changePrep(params.id, baseRevision, commands, gesture);
    return { revision, canUndo, canRedo };
  },
  'POST /api/preps/{id}/undo': async ({ params, body }) => stepOf(await undoPrep(params.id, body.baseRevision)),
  'POST /api/preps/{id}/redo': async ({ params, body }) => stepOf(await redoPrep(params.id, body.baseRevision)),
  'GET /api/preps/{id}/history': ({ params }) => prepHistory(params.id),
  'POST /api/preps/{id}/history': async ({ params, body }) =>
    stepOf(await goToInPrep(params.id, body.baseRevision, body.entry)),
  'PATCH /api/preps/{id}/history/{entry}': async ({ params, body }) => {
    await namePrepEntry(params.id, params.entry, body.name);
    return undefined;
  },
  'DELETE /api/preps/{id}': async ({ params }) => {
    await deletePrep(params.id);
    return undefined;
  },
  'POST /api/preps/{id}/material': ({ params }) => startPrep(params.id),

  'POST /api/images': async ({ upload }) => {
    const stored = [];
    for (const file of upload.files) {
      const bytes = await readFile(path.join(upload.folder, file));
      stored.push({ ...(await storeImage(bytes, file)), ...readRole(file) });
    }
    return stored;
  },
  'GET /api/images/{hash}': async ({ params, query }) => {
    const size = query.size === undefined ? null : Number(query.size);
    if (size !== null && !SERVED.includes(size))
      throw badField('size', `Pictures are served at ${SERVED.join(', ')} pixels.`);
    const { bytes, mime } = await serveImage(params.hash, size, query.as ?? null);
    return bytesOf(bytes, mime, `public, ${FOREVER}`);
  },
};
