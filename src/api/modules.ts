import { Type } from '@sinclair/typebox';
import { ModuleChoice } from '@/core/drawing/makeModule';
import { MOST_TEXT } from '@/core/drawing/types';
import { OwnModule } from '@/core/layout/own/module';
import { Name } from '@/core/schema/basics';
import * as A from './answers';
import type { Endpoint } from './endpoint';

const shape = <P extends Parameters<typeof Type.Object>[0]>(properties: P) =>
  Type.Object(properties, { additionalProperties: false });

/** Calls about modules of one’s own. */
export const MODULE_ENDPOINTS = {
  'GET /api/modules': {
    summary: 'Modules of one’s own in the library, and where each is laid',
    status: 200,
    answer: Type.Array(A.typed<A.LibraryModule>(A.LibraryModule)),
  },
  'POST /api/modules/read': {
    summary: 'Make a module of the text of an SVG or DXF, to look at before it is kept',
    mostJson: 2 * MOST_TEXT,
    body: shape({ file: Name, text: Type.String({ maxLength: MOST_TEXT }), choice: Type.Optional(ModuleChoice) }),
    status: 200,
    answer: A.ReadModule,
    problems: [413, 422],
  },
  'POST /api/modules': {
    summary: 'Keep a module in the library',
    mostJson: 8 * 1024 * 1024,
    body: Type.Omit(OwnModule, ['id'], { additionalProperties: false }),
    status: 201,
    answer: A.typed<OwnModule>(OwnModule),
    problems: [422],
  },
  'PATCH /api/modules/{id}': {
    summary: 'Give it another name, or bring it back with `deleted: false`',
    body: shape({ name: Type.Optional(Name), deleted: Type.Optional(Type.Literal(false)) }),
    status: 200,
    answer: A.typed<OwnModule>(OwnModule),
    problems: [404],
  },
  'DELETE /api/modules/{id}': {
    summary: 'Take it out of the library; what is laid with it stays',
    status: 204,
    answer: 'nothing',
    problems: [404],
  },
  'GET /api/modules/{id}/file': {
    summary: 'The module as SVG, true to size; it comes in again by POST /api/modules/read',
    status: 200,
    answer: 'bytes',
    problems: [404],
  },
} as const satisfies Record<string, Endpoint>;
