import { expose } from 'comlink';
import { unzipSync } from 'fflate';
import { validateBytes, type ValidationReport } from 'gltf-validator';

/** The standard body's validator, off the main thread; ending the worker cancels it. */
const service = {
  async validate(bytes: Uint8Array, zipped: boolean): Promise<ValidationReport> {
    if (!zipped) return validateBytes(bytes, { maxIssues: 100 });
    const files = unzipSync(bytes);
    const main = Object.keys(files).find((name) => name.endsWith('.gltf'));
    if (!main) throw new Error('the zip holds no .gltf file');
    return validateBytes(files[main], {
      maxIssues: 100,
      externalResourceFunction: async (uri) => {
        const found = files[decodeURIComponent(uri)];
        if (!found) throw new Error(`${uri} is missing`);
        return found;
      },
    });
  },
};

export type ValidateService = typeof service;
expose(service);
