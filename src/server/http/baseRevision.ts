import { Type } from '@sinclair/typebox';
import { check, readJson } from './validate';

const Body = Type.Object({ baseRevision: Type.Integer({ minimum: 0 }) }, { additionalProperties: false });

/** The revision a client believes the project to be at. */
export const baseRevisionOf = async (request: Request): Promise<number> =>
  check(Body, await readJson(request)).baseRevision;
