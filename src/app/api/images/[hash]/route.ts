import { SERVED, serveImage } from '@/server/store/images';
import { badField, route } from '@/server/http/problem';

type Context = { params: Promise<{ hash: string }> };

export const GET = route<Context>(async (request, { params }) => {
  const asked = new URL(request.url).searchParams.get('size');
  const size = asked === null ? null : Number(asked);
  if (size !== null && !SERVED.includes(size))
    throw badField('size', `Pictures are served at ${SERVED.join(', ')} pixels.`);
  const { bytes, mime } = await serveImage((await params).hash, size);
  return new Response(new Uint8Array(bytes), {
    headers: { 'content-type': mime, 'cache-control': 'public, max-age=31536000, immutable' },
  });
});
