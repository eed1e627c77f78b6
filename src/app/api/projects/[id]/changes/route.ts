import { Type } from '@sinclair/typebox';
import { route } from '@/server/http/problem';
import { changeProject } from '@/server/store/projects';
import { check, checkCommand, readJson } from '@/server/http/validate';

type Context = { params: Promise<{ id: string }> };
const Body = Type.Object(
  {
    baseRevision: Type.Integer({ minimum: 0 }),
    commands: Type.Array(Type.Unknown(), { minItems: 1, maxItems: 1000 }),
    gesture: Type.Optional(Type.String({ maxLength: 80 })),
  },
  { additionalProperties: false },
);

export const POST = route<Context>(async (request, { params }) => {
  const body = check(Body, await readJson(request));
  const commands = body.commands.map(checkCommand);
  const { revision, canUndo, canRedo } = await changeProject(
    (await params).id,
    body.baseRevision,
    commands,
    body.gesture,
  );
  return Response.json({ revision, canUndo, canRedo });
});
