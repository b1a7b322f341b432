// npm test: sets up what is missing, then lint, structure, types, unit and browser checks. Stops at the first that fails.
import { spawnSync } from 'node:child_process';
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { build, chromium, packages, root, run } from './setup.mjs';

packages();
process.env.CHROMIUM = chromium();

const began = Date.now();
const step = (name, command, args) => {
  const at = Date.now();
  console.log(`\n== ${name}`);
  run(command, args);
  console.log(`   ${((Date.now() - at) / 1000).toFixed(0)} s`);
};
step('lint and format', 'npx', ['biome', 'check', '--error-on-warnings', '--max-diagnostics=40', '.']);
step('structure: which way the arrows point', 'npx', ['depcruise', 'src', 'standins', 'demo', 'bench', '--config', '.dependency-cruiser.cjs', '--output-type', 'err']);
step('expressions that take no longer than their text', 'node', ['scripts/expressions.mjs']);
// looks at every .ts and .tsx of the project as well as at the pages
step('types', 'npx', ['astro', 'check', '--minimumSeverity', 'error']);
build();

console.log('\n== unit and browser tests');
const report = join(root, 'test-results', 'vitest.json');
rmSync(report, { force: true });
const tests = spawnSync('npx', ['vitest', 'run', '--reporter=default', '--reporter=json', `--outputFile.json=${report}`], { cwd: root, stdio: 'inherit' });
const { readFileSync } = await import('node:fs');
const counts = JSON.parse(readFileSync(report, 'utf8'));
console.log(`\n${((Date.now() - began) / 1000).toFixed(0)} s in all`);
console.log(`${counts.numPassedTests} passed, ${counts.numFailedTests + (tests.status !== 0 && counts.numFailedTests === 0 ? 1 : 0)} failed, ${counts.numPendingTests} skipped`);
process.exit(tests.status ?? 1);
