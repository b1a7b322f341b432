// npm run expressions: no regular expression of Ottik may take longer than its text is long. Every literal of the source is
// looked at once by recheck, an analyser of regular expressions; what it found is kept in expressions.json, so that only new
// ones are looked at again. `--keep` writes what was found.
import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import ts from 'typescript';
import { root } from './setup.mjs';

const { checkSync } = createRequire(import.meta.url)('recheck');
const KEPT = join(root, 'scripts/expressions.json');
const { linear, reviewed } = JSON.parse(readFileSync(KEPT, 'utf8'));
const [known, looked] = [new Set(linear), new Map(reviewed.map((r) => [r.expression, r]))];

/** Whether an expression repeats anything without an end; one that does not takes so many steps at each place and no more. */
function repeatsWithoutEnd(source) {
  let inClass = false;
  for (let i = 0; i < source.length; i++) {
    const c = source[i];
    if (c === '\\') i++;
    else if (inClass) inClass = c !== ']';
    else if (c === '[') inClass = true;
    else if (c === '*' || c === '+' || /^\{\d+,\}/.test(source.slice(i, i + 8))) return true;
  }
  return false;
}

const files = execFileSync('git', ['ls-files', 'src', 'standins'], { cwd: root, encoding: 'utf8' })
  .split('\n')
  .filter((f) => /\.tsx?$/.test(f));
const [found, wrong, used] = [new Set(), [], new Set()];
let all = 0;
for (const file of files) {
  const source = ts.createSourceFile(file, readFileSync(join(root, file), 'utf8'), ts.ScriptTarget.Latest, true);
  const walk = (node) => {
    if (ts.isRegularExpressionLiteral(node)) {
      all++;
      const expression = node.text;
      const end = expression.lastIndexOf('/');
      const body = expression.slice(1, end);
      const where = `${file}:${source.getLineAndCharacterOfPosition(node.getStart()).line + 1}`;
      used.add(expression);
      if (known.has(expression) || looked.has(expression) || !repeatsWithoutEnd(body)) {
        if (known.has(expression)) found.add(expression);
      } else {
        const result = checkSync(body, expression.slice(end + 1), { timeout: 8000, checker: 'automaton' });
        if (result.status === 'safe') found.add(expression);
        else wrong.push(`${where} ${result.status === 'vulnerable' ? `takes ${result.complexity.summary} time` : 'could not be judged: review it, and say in scripts/expressions.json why it is linear'}: ${expression}`);
      }
    }
    ts.forEachChild(node, walk);
  };
  walk(source);
}
const gone = [...looked.keys()].filter((e) => !used.has(e));
const now = { linear: [...found].sort(), reviewed: reviewed.filter((r) => used.has(r.expression)) };
if (process.argv.includes('--keep')) writeFileSync(KEPT, `${JSON.stringify(now, null, 2)}\n`);
else {
  for (const e of found) if (!known.has(e)) wrong.push(`${e} is linear and not kept: run npm run expressions -- --keep`);
  for (const e of gone) wrong.push(`${e} is reviewed and nowhere used any more: run npm run expressions -- --keep`);
}
for (const w of wrong) console.error(w);
console.log(`${all} expressions, ${found.size} judged linear, ${reviewed.length} reviewed, ${wrong.length} wrong`);
process.exit(wrong.length ? 1 : 0);
