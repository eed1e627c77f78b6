import { cp, mkdir } from 'node:fs/promises';
import path from 'node:path';
import { dataFolder } from './data';
import { backupDatabase, DATABASE_FILE } from './database';

/** Database first, then the files: every file a row of the copy refers to is there, since files are never changed. */
const target = path.resolve(process.argv[2]);
await mkdir(target, { recursive: true });
await backupDatabase(path.join(target, DATABASE_FILE));
await cp(path.join(dataFolder(), 'blobs'), path.join(target, 'blobs'), { recursive: true });
console.log(`Copied to ${target}`);
