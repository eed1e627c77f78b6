import { Sessions, cookieOf } from './sessions';
import { describeReach, hostOf, readSettings } from './settings';

const secret = { JUTE_GRID_TOKEN: 'twelve-and-more' };

test('by itself it listens to this machine alone and asks nobody', () => {
  expect(readSettings({})).toEqual({ host: '127.0.0.1', port: 4310, names: [], credentials: null, behindProxy: false });
  expect(describeReach(readSettings({}))).toBeNull();
});

test.each<[Record<string, string>, RegExp]>([
  [{ JUTE_GRID_HOST: '0.0.0.0' }, /nobody is asked who they are: set JUTE_GRID_USER/],
  [{ JUTE_GRID_HOST: '192.168.1.4', JUTE_GRID_HOSTS: 'grid.house' }, /others can reach/],
  [{ JUTE_GRID_HOST: 'everywhere' }, /must be an address/],
  [{ PORT: '70000' }, /PORT is “70000”/],
  [{ JUTE_GRID_HOSTS: 'http://grid.house' }, /without http/],
  [{ JUTE_GRID_HOSTS: 'grid.house:80' }, /without a port/],
  [{ JUTE_GRID_TOKEN: 'short' }, /5 characters/],
  [{ JUTE_GRID_USER: 'mara' }, /only go together/],
  [{ JUTE_GRID_USER: 'mara', JUTE_GRID_PASSWORD: 'short' }, /JUTE_GRID_PASSWORD has 5/],
  [{ ...secret, JUTE_GRID_USER: 'mara' }, /one of the two ways/],
])('%j is refused with what would be right', (env, said) => expect(() => readSettings(env)).toThrow(said));

test('where others reach it, it asks, and plain HTTP is warned of unless a proxy stands before', () => {
  const open = readSettings({ ...secret, JUTE_GRID_HOST: '192.168.1.4' });
  expect(open).toMatchObject({ names: ['192.168.1.4'], credentials: { token: 'twelve-and-more' } });
  expect(describeReach(open)).toMatch(/plain HTTP/);
  expect(describeReach(readSettings({ ...secret, JUTE_GRID_HOST: '0.0.0.0', JUTE_GRID_PROXY: '1' }))).toMatch(/HTTPS/);
});

test.each([
  ['localhost:80', 'localhost'],
  ['[::1]:4310', '::1'],
  ['Grid.House.', 'grid.house'],
  ['a:b:c', null],
  ['a/b', null],
  ['user@localhost', null],
  ['localhost:x', null],
  ['', null],
])('the name in “%s” is %s', (header, name) => expect(hostOf(header)).toBe(name));

describe('sessions', () => {
  const HOUR = 3600_000;

  test('last while they are used', () => {
    const sessions = new Sessions({ token: 'the-house-token' });
    const key = sessions.signIn({ token: 'the-house-token' }, 0)!;
    const admits = (at: number) => sessions.admits({ cookie: `jute-grid-session=${key}` }, at);
    expect([admits(10 * HOUR), admits(20 * HOUR), admits(33 * HOUR), admits(33 * HOUR)]).toEqual([
      'yes',
      'yes',
      'no',
      'no',
    ]);
  });

  test('tries are counted by address, and forgotten after a while', () => {
    const sessions = new Sessions({ token: 'the-house-token' });
    for (let n = 0; n < 9; n++) sessions.failed('a', n);
    expect(sessions.waits('a', 9)).toBe(0);
    sessions.failed('a', 9);
    expect([sessions.waits('a', 10) > 0, sessions.waits('b', 10), sessions.waits('a', HOUR)]).toEqual([true, 0, 0]);
  });

  test('a cookie is for this site’s HTTP alone', () => {
    expect(cookieOf('abc', true)).toBe('jute-grid-session=abc; Path=/; HttpOnly; SameSite=Strict; Secure');
    expect(cookieOf(null, false)).toContain('Max-Age=0');
  });
});
