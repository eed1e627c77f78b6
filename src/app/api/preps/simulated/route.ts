import { Type } from '@sinclair/typebox';
import { simulatePrep } from '@/server/prep/preps';
import { route } from '@/server/http/problem';
import { check, readJson } from '@/server/http/validate';

const Body = Type.Object(
  { ground: Type.String({ maxLength: 40 }), seed: Type.Integer({ minimum: 0, maximum: 1e6 }) },
  { additionalProperties: false },
);

/** Takes a photograph with the simulated camera. */
export const POST = route(async (request) => {
  const { ground, seed } = check(Body, await readJson(request));
  return Response.json(await simulatePrep(ground, seed), { status: 201 });
});
