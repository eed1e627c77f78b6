import { Type } from '@sinclair/typebox';
import { oneOf } from '@/core/schema/choice';
import { EXPORT_FORMATS } from '@/core/formats/exportFormats';
import { startExport } from '@/server/jobs/jobs';
import { route } from '@/server/http/problem';
import { check, readJson } from '@/server/http/validate';

type Context = { params: Promise<{ id: string }> };
const Body = Type.Object(
  {
    format: oneOf(...EXPORT_FORMATS.map((f) => f.kind)),
    options: Type.Optional(
      Type.Object(
        { pictureSize: Type.Optional(Type.Union([Type.Integer({ minimum: 64, maximum: 16384 }), Type.Null()])) },
        { additionalProperties: false },
      ),
    ),
  },
  { additionalProperties: false },
);

export const POST = route<Context>(async (request, { params }) => {
  const { format, options } = check(Body, await readJson(request));
  const job = await startExport((await params).id, { format, pictureSize: options?.pictureSize ?? null });
  return Response.json(job, { status: 202 });
});
