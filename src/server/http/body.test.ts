import { ENDPOINTS } from '@/api/endpoints';
import type { Endpoint } from '@/api/endpoint';
import { checkType, depthOf, readBody, readJson } from './body';

const post = (body: BodyInit | null, type?: string) =>
  new Request('http://127.0.0.1/', { method: 'POST', body, ...(type ? { headers: { 'content-type': type } } : {}) });

/** A body whose length nobody says, and that tells how much of it was asked for. */
function endless() {
  let sent = 0;
  const stream = new ReadableStream({
    pull(controller) {
      sent += 1 << 16;
      controller.enqueue(new Uint8Array(1 << 16).fill(0x20));
    },
  });
  const request = new Request('http://127.0.0.1/', { method: 'POST', body: stream, duplex: 'half' } as RequestInit);
  return { request, sent: () => sent };
}

test('a body is refused while it is read, not after', async () => {
  const { request, sent } = endless();
  await expect(readBody(request, 300_000, 0)).rejects.toMatchObject({ status: 413 });
  expect(sent()).toBeLessThan(600_000);
  await expect(readJson(endless().request)).rejects.toMatchObject({ status: 413 });
});

test('what is a little too long is let run away, so that its sender sees the answer', async () => {
  let pulled = 0;
  const body = new ReadableStream({
    pull(controller) {
      if (pulled === 20) return controller.close();
      pulled++;
      controller.enqueue(new Uint8Array(1000));
    },
  });
  const request = new Request('http://127.0.0.1/', { method: 'POST', body, duplex: 'half' } as RequestInit);
  await expect(readBody(request, 5000)).rejects.toMatchObject({ status: 413 });
  expect(pulled).toBe(20);
});

test('one that says it is far too long is not read at all', async () => {
  const request = post('x', 'application/json');
  const said = new Request(request, { headers: { 'content-type': 'application/json', 'content-length': '99999999' } });
  await expect(readJson(said)).rejects.toMatchObject({ status: 413 });
});

test.each<[string | Uint8Array, RegExp]>([
  ['{"a":', /not JSON/],
  [Uint8Array.of(0x22, 0xff, 0xfe, 0x22), /no UTF-8/],
  ['['.repeat(20_000) + ']'.repeat(20_000), /deeper than 64/],
])('what is no JSON of ours is said: %#', async (body, said) => {
  await expect(readJson(post(body as BodyInit))).rejects.toMatchObject({
    status: 400,
    detail: expect.stringMatching(said) as string,
  });
});

test('nothing is an empty object; what is JSON comes as it is', async () => {
  expect(await readJson(post(null))).toEqual({});
  expect(await readJson(post('null'))).toBeNull();
  expect(await readJson(post('{"__proto__":{"a":1}}'))).not.toHaveProperty('a');
});

test.each([
  ['{}', 1],
  ['[[{"a":[]}]]', 4],
  ['"[[[[["', 0],
  ['{"a\\"[[":1}', 1],
  ['', 0],
])('%s is %d deep', (text, depth) => expect(depthOf(text)).toBe(depth));

describe('the type of a body is the call’s own', () => {
  const of = (name: keyof typeof ENDPOINTS): Endpoint => ENDPOINTS[name];
  test.each<[keyof typeof ENDPOINTS, string | undefined]>([
    ['POST /api/projects', 'application/json'],
    ['POST /api/projects', 'application/json; charset=utf-8'],
    ['POST /api/uploads', 'multipart/form-data; boundary=x'],
    ['POST /api/materials', 'application/json'],
    ['POST /api/materials', 'multipart/form-data; boundary=x'],
    ['PUT /api/projects/{id}/still', 'image/png'],
  ])('%s takes %s', (name, type) => expect(() => checkType(of(name), post('x', type))).not.toThrow());

  test.each<[keyof typeof ENDPOINTS, string]>([
    ['POST /api/projects', 'text/plain'],
    ['POST /api/projects', 'application/x-www-form-urlencoded'],
    ['POST /api/projects', 'multipart/form-data; boundary=x'],
    ['POST /api/uploads', 'application/json'],
    ['PUT /api/projects/{id}/still', 'text/html'],
    ['POST /api/preps/{id}/material', 'text/plain'],
    ['DELETE /api/projects/{id}', 'text/plain'],
  ])('%s does not take %s', (name, type) => {
    expect(() => checkType(of(name), post('x', type))).toThrow(/must come as|takes no body/);
  });

  test('a call that needs no body may come without one', () => {
    expect(() => checkType(of('POST /api/preps/{id}/material'), post(null))).not.toThrow();
    expect(() =>
      checkType(of('DELETE /api/projects/{id}'), new Request('http://a/', { method: 'DELETE' })),
    ).not.toThrow();
  });
});
