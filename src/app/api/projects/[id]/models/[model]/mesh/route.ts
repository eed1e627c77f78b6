import { Readable } from 'node:stream';
import { blobSize, streamBlob } from '@/server/store/data';
import { notFound, route } from '@/server/http/problem';
import { readProject } from '@/server/store/projects';

type Context = { params: Promise<{ id: string; model: string }> };

/** The prepared meshes: world millimetres, y up, as a file of arrays. */
export const GET = route<Context>(async (_request, { params }) => {
  const { id, model } = await params;
  const { project } = await readProject(id);
  const found = project.models[model];
  if (!found) throw notFound('model', model);
  return new Response(Readable.toWeb(streamBlob(found.mesh)) as ReadableStream, {
    headers: {
      'content-type': 'application/octet-stream',
      'content-length': String(await blobSize(found.mesh)),
      'cache-control': 'private, max-age=31536000, immutable',
      etag: `"${found.mesh}"`,
    },
  });
});
