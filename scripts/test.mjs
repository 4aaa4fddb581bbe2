// Runs the checks in order and adds up the tests: formatter, lint, kernel, types, unit tests,
// build, end-to-end tests. A check that fails does not stop the rest. Called by ./test.
// With --changed [commit]: the unit tests of what has changed since (since the last commit where none is named), for the daily
// loop, and no end-to-end tests.
import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { relative } from 'node:path';
import { parseArgs } from 'node:util';

const { values, positionals } = parseArgs({
  options: { changed: { type: 'boolean' } },
  allowPositionals: true,
  strict: false,
});
if (Object.keys(values).some((name) => name !== 'changed') || positionals.length > (values.changed ? 1 : 0)) {
  console.error('./test runs everything; ./test --changed [commit] the unit tests of what has changed since.');
  process.exit(2);
}
const since = values.changed ? (positionals[0] ?? 'HEAD') : null;

const results = 'test-results';
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });

let passed = 0;
let failed = 0;
const failedChecks = [];
const failedTests = [];

function step(name, command, args, env = {}) {
  console.log(`\n== ${name}`);
  const started = Date.now();
  const { status } = spawnSync(command, args, { stdio: 'inherit', env: { ...process.env, ...env } });
  console.log(`-- ${name}: ${status === 0 ? 'ok' : 'FAILED'} in ${((Date.now() - started) / 1000).toFixed(1)} s`);
  if (status !== 0) failedChecks.push(name);
  return status === 0;
}

const bin = (name) => `node_modules/.bin/${name}`;

/** Names of the end-to-end tests of a suite, and of those in it, that failed. */
const failedSpecs = ({ specs = [], suites = [] }) => [
  ...specs.filter(({ ok }) => !ok).map(({ file, title }) => `${file}: ${title}`),
  ...suites.flatMap(failedSpecs),
];

/** Counts and names of a JSON report; a report that is missing counts as one failure. */
function add(file, read) {
  try {
    const counts = read(JSON.parse(readFileSync(file, 'utf8')));
    passed += counts.passed;
    failed += counts.failed;
    failedTests.push(...counts.names);
  } catch (error) {
    console.error(`no report in ${file}: ${error.message}`);
    failed += 1;
  }
}

step('format, lint', bin('biome'), ['ci', '.']);
step('compiled kernel is current', 'node', ['core/kernel/build.mjs', '--check']);
step('types', bin('tsc'), ['-b']);
const unitReport = `${results}/unit.json`;
const related = since === null ? [] : ['--changed', since, '--passWithNoTests'];
const unitTests = [...related, `--outputFile.json=${unitReport}`, '--reporter=default', '--reporter=json'];
const unitsEnded = step('unit tests', bin('vitest'), ['run', ...unitTests]);
add(unitReport, (report) => ({
  passed: report.numPassedTests,
  // A run that broke off has failed, even where every test in its report passed.
  failed: report.numFailedTests || Number(!unitsEnded),
  names: report.testResults.flatMap(({ name, assertionResults }) =>
    assertionResults
      .filter(({ status }) => status === 'failed')
      .map(({ fullName }) => `${relative('.', name)}: ${fullName}`),
  ),
}));
const endReport = `${results}/end-to-end.json`;
if (since === null && step('build', './start', ['--build-only'])) {
  step('end-to-end tests', bin('playwright'), ['test'], { PLAYWRIGHT_JSON_OUTPUT_NAME: endReport });
  add(endReport, ({ stats, suites }) => ({
    passed: stats.expected + stats.flaky,
    failed: stats.unexpected,
    names: failedSpecs({ suites }),
  }));
}

// At the end, where they are found: what a check printed is thousands of lines above.
for (const name of failedTests) console.log(`failed test: ${name}`);
if (failedChecks.length) console.log(`\nfailed: ${failedChecks.join('; ')}`);
if (since !== null)
  console.log(`\nOnly what ${since} does not have was tested, and nothing end to end: ./test is for the rest.`);
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failedChecks.length || failed ? 1 : 0);
