// Steps the scripts share. Only Node's own modules: these run before anything is installed.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');
process.chdir(root);

export const bin = (name) => path.join('node_modules', '.bin', name);

export function run(command, args, options = {}) {
  const result = spawnSync(command, args, { stdio: 'inherit', ...options });
  if (result.error) fail(`${command} could not be started: ${result.error.message}`);
  if (result.status !== 0) {
    console.error(`\n${command} ${args.join(' ')} ended with ${result.status ?? result.signal}`);
    process.exit(result.status ?? 1);
  }
}

/** As `run`, with others beside it: what it says is told when it has ended. */
export async function runBeside(command, args) {
  const child = spawn(command, args, { stdio: ['ignore', 'pipe', 'pipe'] });
  const said = [];
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (part) => said.push(part));
  const status = await new Promise((resolve) => {
    child.on('error', (error) => resolve(error.message));
    child.on('close', (code, signal) => resolve(code ?? signal));
  });
  process.stdout.write(Buffer.concat(said));
  if (status !== 0) fail(`\n${command} ${args.join(' ')} ended with ${status}`);
}

export function fail(message) {
  console.error(message);
  process.exit(1);
}

const has = (command) => spawnSync('which', [command], { stdio: 'ignore' }).status === 0;
const isRoot = () => typeof process.getuid === 'function' && process.getuid() === 0;

let updated = false;
/** Installs Debian packages when a command is absent and this is root; otherwise says what to install. */
function needDebian(command, packages) {
  if (has(command)) return;
  if (!isRoot() || !has('apt-get'))
    fail(`${command} is missing: install it with “sudo apt-get install ${packages.join(' ')}”.`);
  if (!updated) run('apt-get', ['update', '-qq']);
  updated = true;
  run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...packages], {
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
  });
}

function hashFiles(paths) {
  const hash = createHash('sha256');
  const visit = (at) => {
    if (!existsSync(at)) return;
    if (statSync(at).isDirectory()) {
      for (const name of readdirSync(at).sort()) visit(path.join(at, name));
      return;
    }
    hash.update(at).update(readFileSync(at));
  };
  for (const at of paths) visit(at);
  return hash.digest('hex');
}

const stampOf = (name) => path.join('node_modules', `.jute-grid-${name}`);
const isFresh = (name, value) => existsSync(stampOf(name)) && readFileSync(stampOf(name), 'utf8') === value;

/** npm packages as the lock file says; one of them is compiled and needs a compiler. */
export function install() {
  if (Number(process.versions.node.split('.')[0]) < 20) fail('Node.js 20 or newer is needed.');
  const wanted = hashFiles(['package-lock.json']) + process.versions.modules;
  if (isFresh('install', wanted)) return;
  for (const [command, packages] of [
    ['python3', ['python3']],
    ['make', ['make']],
    ['g++', ['g++']],
  ])
    needDebian(command, packages);
  console.log('Installing packages (one is compiled; two to three minutes on a new machine) …');
  // not “npm ci”: it refuses a lock file that lacks optional binaries of other platforms
  run('npm', ['install', '--no-save', '--no-audit', '--no-fund', '--loglevel=error']);
  writeFileSync(stampOf('install'), wanted);
}

export function installBrowser() {
  needDebian('chromium', ['chromium']);
}

/** Server workers and command-line tools: one bundle each, packages left outside. */
export async function buildTools() {
  const { build } = await import('esbuild');
  await build({
    entryPoints: {
      tasks: 'src/server/jobs/tasks.ts',
      paint: 'demo/paintTask.ts',
      seed: 'demo/seed.ts',
      bench: 'bench/index.ts',
      harden: 'harden/index.ts',
      backup: 'src/server/store/backup.ts',
      restore: 'src/server/store/restoreCommand.ts',
      server: 'src/server/front/main.ts',
    },
    outdir: 'dist',
    outExtension: { '.js': '.mjs' },
    bundle: true,
    splitting: true,
    format: 'esm',
    platform: 'node',
    target: 'node20',
    packages: 'external',
    alias: { '@': path.resolve('src'), '@demo': path.resolve('demo') },
    logLevel: 'warning',
  });
}

/** The whole application; nothing is done when no source has changed since. */
export async function buildAll() {
  const wanted = hashFiles([
    'src',
    'demo',
    'bench',
    'harden',
    'package-lock.json',
    'next.config.ts',
    'tsconfig.json',
    'postcss.config.mjs',
  ]);
  if (isFresh('build', wanted) && existsSync('.next/BUILD_ID') && existsSync('dist/tasks.mjs')) return;
  console.log('Building …');
  await buildTools();
  run(process.execPath, [path.join('node_modules', 'next', 'dist', 'bin', 'next'), 'build'], {
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' },
  });
  writeFileSync(stampOf('build'), wanted);
}

export const port = () => process.env.PORT ?? '4310';

/** Starts the built application and gives the process. */
export function startServer(options = {}) {
  const { env = {}, stdio = 'inherit' } = options;
  mkdirSync(process.env.JUTE_GRID_DATA ?? 'data', { recursive: true });
  return spawn(process.execPath, ['dist/server.mjs'], {
    stdio,
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production', ...env },
  });
}

export async function waitForServer(url, seconds = 60) {
  for (let i = 0; i < seconds * 4; i++) {
    try {
      if ((await fetch(`${url}/api/health`)).ok) return;
    } catch {
      // not up yet
    }
    await new Promise((r) => setTimeout(r, 250));
  }
  fail(`the server did not answer at ${url} within ${seconds} s`);
}
