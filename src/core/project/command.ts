import { Type } from '@sinclair/typebox';

/** The schema of one kind of command: its kind, and what it carries. */
export const command = <K extends string, P extends Parameters<typeof Type.Object>[0]>(kind: K, properties: P) =>
  Type.Object({ kind: Type.Literal(kind), ...properties }, { additionalProperties: false });
