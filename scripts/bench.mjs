// npm run bench: sets up what is missing, then measures and prints the table the README quotes.
import { build, packages, run } from './setup.mjs';

packages();
build();
run('npx', ['tsx', 'bench/main.ts', ...process.argv.slice(2)]);
