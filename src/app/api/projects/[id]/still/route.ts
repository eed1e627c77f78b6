import { route } from '@/server/http/problem';
import { readStill, storeStill } from '@/server/store/stills';

type Context = { params: Promise<{ id: string }> };

export const GET = route<Context>(async (_request, { params }) => {
  const bytes = await readStill((await params).id);
  return new Response(new Uint8Array(bytes), {
    headers: { 'content-type': 'image/jpeg', 'cache-control': 'no-cache' },
  });
});

/** The room as the browser shows it, PNG or JPEG. */
export const PUT = route<Context>(async (request, { params }) => {
  await storeStill((await params).id, new Uint8Array(await request.arrayBuffer()));
  return new Response(null, { status: 204 });
});
