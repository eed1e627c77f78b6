import { readChoice } from '@/server/importing/importModel';
import { runTask } from '@/server/jobs/pool';
import { route } from '@/server/http/problem';
import { dropUpload, openUpload } from '@/server/importing/uploads';
import { readJson } from '@/server/http/validate';

type Context = { params: Promise<{ id: string }> };

/** Looks at an upload again with another scene, unit or up-axis. */
export const POST = route<Context>(async (request, { params }) => {
  const upload = await openUpload((await params).id);
  const choice = readChoice((await readJson(request)) as Record<string, unknown>);
  const preview = await runTask(
    'preview',
    { source: { folder: upload.folder, files: upload.files }, choice },
    { signal: request.signal },
  );
  return Response.json({ upload: upload.id, ...preview });
});

export const DELETE = route<Context>(async (_request, { params }) => {
  const upload = await openUpload((await params).id);
  await dropUpload(upload.id);
  return new Response(null, { status: 204 });
});
