import type { AnswerOf, BodyOf, Endpoint, FilesAnswerOf, ParamsOf, QueryOf } from '@/api/endpoint';
import { partName } from '@/api/endpoint';
import { type EndpointName, type EndpointOf, ENDPOINTS } from '@/api/endpoints';
import { KEY } from '@/core/schema/basics';
import { dropUpload, receiveUpload, type Upload } from '../importing/uploads';
import { badField, Problem, problemResponse } from './problem';
import { checkType, readJson, typeOf } from './body';
import { check, faultOf } from './validate';

/** A call as its handler gets it: everything checked against the table. */
export interface Call<N extends EndpointName> {
  params: ParamsOf<N>;
  query: QueryOf<EndpointOf<N>>;
  /** Of a call that takes either, undefined where files came. */
  body: BodyOf<EndpointOf<N>> | (EndpointOf<N> extends { files: unknown } ? undefined : never);
  /** Files that came along; they are gone once the call is answered, unless it keeps them. */
  upload: EndpointOf<N> extends { files: unknown } ? Upload : undefined;
  request: Request;
}

type Given<N extends EndpointName> = EndpointOf<N>['answer'] extends 'bytes' | 'events'
  ? Response
  : | AnswerOf<EndpointOf<N>>
    | FilesAnswerOf<EndpointOf<N>>
    | (EndpointOf<N>['answer'] extends 'nothing' ? Response : never);

/** What answers a call: the table's JSON as a value, bytes and events as a response, nothing as undefined. */
export type Handler<N extends EndpointName> = (call: Call<N>) => Promise<Given<N>> | Given<N>;
export type Handlers = { [N in EndpointName]: Handler<N> };

interface Route {
  name: EndpointName;
  endpoint: Endpoint;
  method: string;
  steps: string[];
}

const ROUTES: Route[] = Object.entries(ENDPOINTS).map(([name, endpoint]) => {
  const { method, path } = partName(name);
  return { name: name as EndpointName, endpoint, method, steps: path.split('/') };
});

/** Values of a path's parameters where it fits; null where it does not. */
function fit(steps: string[], given: string[]): Record<string, string> | null {
  if (steps.length !== given.length) return null;
  const params: Record<string, string> = {};
  for (const [n, step] of steps.entries()) {
    if (step.startsWith('{')) params[step.slice(1, -1)] = given[n];
    else if (step !== given[n]) return null;
  }
  return params;
}

/** Words as they stand before a path's parameters: “/api/preps/simulated” is no prep called so. */
const fixedSteps = ({ steps }: Route) => steps.filter((s) => !s.startsWith('{')).length;

function decode(step: string): string {
  try {
    return decodeURIComponent(step);
  } catch {
    throw badField('path', `“${step}” in the path is not written as a URL writes it.`);
  }
}

function findRoute(method: string, pathname: string): { route: Route; params: Record<string, string> } {
  const given = pathname.split('/').map(decode);
  const fitting = ROUTES.flatMap((route) => {
    const params = fit(route.steps, given);
    return params ? [{ route, params }] : [];
  }).sort((a, b) => fixedSteps(b.route) - fixedSteps(a.route));
  const found = fitting.find((f) => f.route.method === method);
  if (found) return found;
  if (!fitting.length) throw new Problem(404, 'Not found', `There is no call ${pathname}.`);
  const methods = [...new Set(fitting.map((f) => f.route.method))];
  throw new Problem(405, 'Not this way', `${pathname} answers ${methods.join(', ')}, not ${method}.`);
}

/** What a path names must look like something that has a name here, before anything is asked about it. */
function checkId(param: string, value: string): void {
  if (value.length > 80 || !KEY.test(value))
    throw badField(param, `“${value.slice(0, 80)}” in the path is no name that anything has here.`);
}

const sendsFiles = (request: Request) => typeOf(request) === 'multipart/form-data';

async function answer(handlers: Handlers, request: Request): Promise<Response> {
  const url = new URL(request.url);
  const { route, params } = findRoute(request.method, url.pathname);
  const { endpoint, name } = route;
  for (const [param, value] of Object.entries(params)) checkId(param, value);
  checkType(endpoint, request);
  const asked = Object.fromEntries([...url.searchParams].filter(([key]) => endpoint.query?.properties[key]));
  const query = endpoint.query && check(endpoint.query, asked);
  const takesFiles = endpoint.files && (!endpoint.body || sendsFiles(request));
  const body =
    endpoint.body && !takesFiles ? check(endpoint.body, await readJson(request, endpoint.mostJson)) : undefined;
  const upload = takesFiles ? await receiveUpload(request) : undefined;
  try {
    if (upload) check(endpoint.files!, upload.fields);
    const handle = handlers[name] as (call: unknown) => Promise<unknown>;
    const given = await handle({ params, query, body, upload, request });
    return respond(name, endpoint, (upload && endpoint.filesAnswer) ?? endpoint.answer, given);
  } finally {
    if (upload && !upload.kept) await dropUpload(upload.id);
  }
}

function respond(name: string, { status }: Endpoint, answer: Endpoint['answer'], given: unknown): Response {
  if (given instanceof Response) return given;
  if (answer === 'nothing') return new Response(null, { status });
  if (checksAnswers() && typeof answer === 'object') {
    // as it will arrive: what JSON leaves out is not there
    const fault = faultOf(answer, JSON.parse(JSON.stringify(given)));
    if (fault) throw new Error(`${name} answered what its table does not know: ${fault.field}: ${fault.detail}`);
  }
  return Response.json(given, { status });
}

/** In tests every answer is held against the table; in use that would be work for nothing. */
const checksAnswers = () => process.env.JUTE_GRID_CHECK_ANSWERS === '1';

/** Problems any call may answer with. */
const ALWAYS = [400, 405, 413, 415, 500, 503, 507];

function problemOf(request: Request, error: unknown): Response {
  const response = problemResponse(error);
  if (checksAnswers() && !ALWAYS.includes(response.status)) {
    const known = ROUTES.filter(
      (r) => r.method === request.method && fit(r.steps, new URL(request.url).pathname.split('/')),
    );
    const listed = known.flatMap((r): readonly number[] => r.endpoint.problems ?? []);
    if (known.length && !listed.includes(response.status))
      return problemResponse(new Error(`${known[0].name} does not say that it may answer ${response.status}`));
  }
  return response;
}

/** Answers any call of the table; every error becomes a clear answer. */
export const serve =
  (handlers: Handlers) =>
  async (request: Request): Promise<Response> => {
    try {
      return await answer(handlers, request);
    } catch (error) {
      return problemOf(request, error);
    }
  };
