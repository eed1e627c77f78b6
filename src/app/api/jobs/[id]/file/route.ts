import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import { jobFile } from '@/server/jobs/jobs';
import { route } from '@/server/http/problem';

type Context = { params: Promise<{ id: string }> };

export const GET = route<Context>(async (_request, { params }) => {
  const { at, file, mime, bytes } = await jobFile((await params).id);
  return new Response(Readable.toWeb(createReadStream(at)) as ReadableStream, {
    headers: {
      'content-type': mime,
      'content-length': String(bytes),
      'content-disposition': `attachment; filename="${file}"`,
    },
  });
});
