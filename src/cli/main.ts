#!/usr/bin/env node
import { runCheck } from './check.ts';
import { runSift } from './sift.ts';

const USAGE = `ottik: reads meeting records

  ottik sift FILE --date 2026-03-05 [--next DATE] [--people "Ines Falk, Bram Osei"] [--author NAME] [--json] [--quick]
      prints the finds of a record (vtt, srt, txt, md, json, html, docx, eml) as a table, or as JSON; --quick leaves the close reader out
  ottik sift --case CASE.json ...
      one JSON object a line for each case file: record, people, meeting and what was open, all in one
  ottik check [DATABASE]
      replays the events of every commitment and tells where what is stored differs
`;

// a command reads one thing and ends
process.env.OTTIK_WORK = 'here';

async function main(argv: string[]): Promise<number> {
  const [command, ...rest] = argv;
  if (command === 'sift') return runSift(rest);
  if (command === 'check') return runCheck(rest);
  process.stdout.write(USAGE);
  return command === undefined || command === 'help' || command === '--help' ? 0 : 2;
}

main(process.argv.slice(2)).then(
  (code) => {
    process.exitCode = code;
  },
  (error: Error) => {
    process.stderr.write(`ottik: ${error.message}\n`);
    process.exitCode = 1;
  },
);
