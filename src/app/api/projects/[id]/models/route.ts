import { importModel, readChoice } from '@/server/importing/importModel';
import { route } from '@/server/http/problem';
import { readProject } from '@/server/store/projects';
import { dropUpload, openUpload, receiveUpload } from '@/server/importing/uploads';
import { badField } from '@/server/http/problem';
import { readJson } from '@/server/http/validate';

type Context = { params: Promise<{ id: string }> };

/** Files in one go (multipart), or an upload looked at before (JSON with `upload`). */
export const POST = route<Context>(async (request, { params }) => {
  const { id } = await params;
  await readProject(id);
  if ((request.headers.get('content-type') ?? '').includes('application/json')) {
    const body = (await readJson(request)) as Record<string, unknown>;
    if (typeof body.upload !== 'string')
      throw badField('upload', '“upload” is missing: the id POST /api/uploads gave.');
    const result = await importModel(id, await openUpload(body.upload), readChoice(body), request.signal);
    return Response.json(result, { status: 201 });
  }
  const upload = await receiveUpload(request);
  try {
    return Response.json(await importModel(id, upload, readChoice(upload.fields), request.signal), { status: 201 });
  } finally {
    await dropUpload(upload.id);
  }
});
