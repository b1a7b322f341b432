// What every command needs before it can begin. Depends on nothing but Node.js, since it may be what installs the rest.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

// building reports to nobody
process.env.ASTRO_TELEMETRY_DISABLED = '1';

export const root = join(import.meta.dirname, '..');

export function run(command, args, options = {}) {
  const done = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options });
  if (done.status !== 0) {
    console.error(`\n${command} ${args.join(' ')} did not work${done.error ? `: ${done.error.message}` : ` (exit code ${done.status})`}.`);
    process.exit(done.status ?? 1);
  }
}

/** Packages as the lock file has them; installed again only when the lock file has changed. */
export function packages() {
  const [major] = process.versions.node.split('.').map(Number);
  if (major < 20) {
    console.error(`Ottik needs Node.js 20 or newer; this is ${process.versions.node}.`);
    process.exit(1);
  }
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  const stamp = join(root, 'node_modules', '.ottik-lock');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  console.log('Installing packages (a few minutes the first time) ...');
  run('npm', ['ci', '--no-audit', '--no-fund']);
  writeFileSync(stamp, lock);
}

function newest(path) {
  if (!existsSync(path)) return 0;
  const s = statSync(path);
  return s.isDirectory() ? Math.max(0, ...readdirSync(path).map((f) => newest(join(path, f)))) : s.mtimeMs;
}

/** The application, built when its sources are newer than the last build. */
export function build() {
  const built = newest(join(root, 'dist', 'server', 'entry.mjs'));
  const sources = Math.max(...['src', 'public', 'astro.config.mjs', 'package-lock.json'].map((p) => newest(join(root, p))));
  if (built > sources) return;
  console.log('Building ...');
  mkdirSync(join(root, 'data'), { recursive: true });
  run('npx', ['astro', 'build', '--silent']);
}

/** Path of a Chromium, from Debian's package when there is none. */
export function chromium() {
  const places = [process.env.CHROMIUM, '/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'].filter(Boolean);
  let found = places.find((p) => existsSync(p));
  if (found) return found;
  console.log('Installing Chromium from Debian ...');
  const sudo = process.getuid?.() === 0 ? [] : ['sudo'];
  const apt = (...args) => run([...sudo, 'apt-get'][0], [...sudo, 'apt-get', ...args].slice(1));
  apt('update', '-q');
  apt('install', '-y', '-q', '--no-install-recommends', 'chromium');
  found = places.find((p) => existsSync(p));
  if (!found) {
    console.error('There is still no Chromium; set CHROMIUM to its path.');
    process.exit(1);
  }
  return found;
}
