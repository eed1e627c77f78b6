import { type ChildProcess, spawn } from 'node:child_process';

/** Starts the built application on a data folder of its own and waits until it answers. */
export async function serve(
  port: number,
  data: string,
  env: Record<string, string> = {},
  begun: (process: ChildProcess) => void = () => {},
): Promise<{ url: string; process: ChildProcess }> {
  const url = `http://127.0.0.1:${port}`;
  const server = spawn(process.execPath, ['dist/server.mjs'], {
    env: {
      ...process.env,
      PORT: String(port),
      JUTE_GRID_DATA: data,
      JUTE_GRID_CHECK_ANSWERS: '1',
      ...env,
      NODE_ENV: 'production',
    },
    stdio: 'ignore',
  });
  begun(server);
  for (let i = 0; i < 240 && server.exitCode === null && !server.signalCode; i++) {
    const answers = await fetch(`${url}/api/health`).then(
      // it may answer that its data cannot be opened
      (r) => r.ok || r.status === 503,
      () => false,
    );
    if (answers) return { url, process: server };
    await new Promise((r) => setTimeout(r, 250));
  }
  throw new Error(`the server did not answer at ${url}`);
}
