import { writeMaterialZip } from '@/server/library/materialZip';
import { route } from '@/server/http/problem';

type Context = { params: Promise<{ id: string }> };

/** The material as a zip: PNGs named by role, and an open JSON. */
export const GET = route<Context>(async (_request, { params }) => {
  const { bytes, file } = await writeMaterialZip((await params).id);
  return new Response(bytes as BodyInit, {
    headers: { 'content-type': 'application/zip', 'content-disposition': `attachment; filename="${file}"` },
  });
});
