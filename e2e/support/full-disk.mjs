// Loaded into a server before everything else: while the file named by TAMBUR_TEST_DISK holds the name of a system error, every
// write to the disk meets that error, in threads too; with "files" behind it all but those of the database.
import fs from 'node:fs';
import { createRequire, syncBuiltinESMExports } from 'node:module';

const trigger = process.env.TAMBUR_TEST_DISK ?? '';
const { readFileSync, writeSync } = fs;

/** The error that is wanted now; null if the disk is well. */
function trouble(isDatabase = false) {
  try {
    const [code, what] = readFileSync(trigger, 'utf8').trim().split(' ');
    return code && !(isDatabase && what === 'files')
      ? Object.assign(new Error(`${code}: the test wants it`), { code })
      : null;
  } catch {
    return null;
  }
}

fs.writeSync = (fd, ...rest) => {
  const error = fd > 2 ? trouble() : null;
  if (error) throw error;
  return writeSync(fd, ...rest);
};
const { open, copyFile } = fs.promises;
fs.promises.open = async (...args) => {
  const handle = await open(...args);
  const { write } = handle;
  handle.write = (...rest) => {
    const error = trouble();
    return error ? Promise.reject(error) : write.apply(handle, rest);
  };
  return handle;
};
fs.promises.copyFile = (...args) => {
  const error = trouble();
  return error ? Promise.reject(error) : copyFile(...args);
};
syncBuiltinESMExports();

const { Database } = createRequire(import.meta.url)('sqlite3');
for (const name of ['run', 'all']) {
  const real = Database.prototype[name];
  Database.prototype[name] = function (sql, ...rest) {
    const callback = rest.at(-1);
    const error = /^\s*(INSERT|UPDATE|DELETE)/i.test(sql) ? trouble(true) : null;
    if (!error || typeof callback !== 'function') return real.call(this, sql, ...rest);
    const words =
      error.code === 'EROFS'
        ? 'SQLITE_READONLY: attempt to write a readonly database'
        : 'SQLITE_FULL: database or disk is full';
    process.nextTick(() => callback.call(this, new Error(words)));
    return this;
  };
}
