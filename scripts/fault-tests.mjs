// Runs tests in the folder in which it is started, as often as faults.mjs asks: what was read and compiled once stays.
import { relative, resolve } from 'node:path';
import { createVitest } from 'vitest/node';

const tests = await createVitest('test', { watch: false, bail: 1, reporters: [{}] });
process.on('message', async ({ files, changed }) => {
  tests.invalidateFile(resolve(changed));
  // What failed in runs before this one would end it at once.
  tests.state.filesMap.clear();
  const found = await tests.globTestSpecifications(files);
  const { testModules } = await tests.runTestSpecifications(
    found.filter(({ moduleId }) => files.includes(relative('.', moduleId))),
  );
  process.send(testModules.filter((module) => !module.ok()).map(({ moduleId }) => relative('.', moduleId)));
});
process.on('disconnect', () => process.exit());
process.send('ready');
