import { createWriteStream } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import path from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import yauzl, { type Entry, type ZipFile } from 'yauzl';
import { Problem } from '../http/problem';
import { FileNames, LIMITS, mb } from './limits';

/** Members as small as this may be anything; what they grow to is counted all the same. */
const SMALL = 10 * 1024 * 1024;

/**
 * Unpacks a zip beside it.
 * @param budget what may still be unpacked of the drop; it is used up
 * @throws Problem naming the zip and what is wrong with it
 */
export async function unpackZip(
  zip: string,
  name: string,
  target: string,
  budget: { bytes: number; files: number },
): Promise<void> {
  const fail = (reason: string) =>
    new Problem(422, 'The file cannot come in', `${name}: ${reason}`, { field: 'files', file: name, reason });
  let archive: ZipFile;
  try {
    archive = await openZip(zip);
  } catch (error) {
    throw fail(`this zip cannot be read (${(error as Error).message}); it may be cut off`);
  }
  if (archive.entryCount > budget.files) {
    archive.close();
    throw fail(`it holds ${archive.entryCount} files; at most ${LIMITS.files} are taken`);
  }
  const names = new FileNames();
  const { fileSize } = archive as unknown as { fileSize: number };
  let unpacked = 0;
  /** Counts what really comes out, whatever the members say of themselves. */
  const counting = (entry: string) =>
    new Transform({
      transform(chunk: Buffer, _encoding, done) {
        unpacked += chunk.length;
        budget.bytes -= chunk.length;
        if (budget.bytes < 0) done(fail(`it unpacks to more than ${mb(LIMITS.unpacked)}`));
        else if (unpacked > SMALL && unpacked > fileSize * LIMITS.growth)
          done(fail(`“${entry}” grows more than ${LIMITS.growth} times when unpacked; it is taken for a bomb`));
        else done(null, chunk);
      },
    });
  await new Promise<void>((resolve, reject) => {
    const stop = (error: unknown) => {
      archive.close();
      reject(
        error instanceof Problem
          ? error
          : (asked(error) ?? fail(`this zip cannot be read (${(error as Error).message})`)),
      );
    };
    archive.on('error', stop);
    archive.on('end', resolve);
    archive.on('entry', (entry: Entry & { fileName: unknown }) => {
      const said = nameOf(entry);
      const inner = said.endsWith('/') ? null : names.take(said);
      if (!inner) return archive.readEntry();
      if (--budget.files < 0) return stop(fail(`it holds more than ${LIMITS.files} files`));
      if (entry.uncompressedSize > budget.bytes) return stop(fail(`it unpacks to more than ${mb(LIMITS.unpacked)}`));
      archive.openReadStream(entry, (error, stream) => {
        if (error) return stop(error);
        const to = path.join(/* turbopackIgnore: true */ target, inner);
        mkdir(path.dirname(to), { recursive: true })
          .then(() => pipeline(stream, counting(said), createWriteStream(to)))
          .then(() => archive.readEntry(), stop);
      });
    });
    archive.readEntry();
  });
}

/** A full disk is no fault of the zip. */
const asked = (error: unknown) => ((error as NodeJS.ErrnoException).code === 'ENOSPC' ? error : null);

const openZip = (zip: string) =>
  new Promise<ZipFile>((resolve, reject) =>
    yauzl.open(zip, { lazyEntries: true, autoClose: true, decodeStrings: false }, (error, opened) =>
      error ? reject(error) : resolve(opened),
    ),
  );

const UTF8 = 0x800;

/** Many programs write UTF-8 without saying so: what reads as that is that, else what zips were first written in. */
function nameOf(entry: Entry): string {
  const raw = entry.fileName as unknown as Buffer;
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(raw);
  } catch {
    const { generalPurposeBitFlag: flags, extraFields } = entry;
    return yauzl.getFileNameLowLevel(flags & ~UTF8, raw, extraFields, false);
  }
}
