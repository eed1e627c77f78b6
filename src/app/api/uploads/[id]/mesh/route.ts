import { readPreviewMesh } from '@/server/importing/uploads';
import { route } from '@/server/http/problem';

type Context = { params: Promise<{ id: string }> };

/** The upload's meshes as last looked at, so that it can be seen and measured before it is saved. */
export const GET = route<Context>(async (_request, { params }) => {
  const bytes = await readPreviewMesh((await params).id);
  return new Response(new Uint8Array(bytes), {
    headers: { 'content-type': 'application/octet-stream', 'cache-control': 'no-store' },
  });
});
