#!/usr/bin/env node
import { runExport, runImport } from './archive.ts';
import { runBackup, runRestore } from './backup.ts';
import { runCheck } from './check.ts';
import { runFind } from './find.ts';
import { runPassword } from './password.ts';
import { runSift } from './sift.ts';

const USAGE = `ottik: reads meeting records

  ottik sift FILE --date 2026-03-05 [--next DATE] [--people "Ines Falk, Bram Osei"] [--author NAME] [--json] [--quick]
      prints the finds of a record (vtt, srt, txt, md, json, html, docx, eml) as a table, or as JSON; --quick leaves the close reader out
  ottik sift --case CASE.json ...
      one JSON object a line for each case file: record, people, meeting and what was open, all in one
  ottik sift ... --reader model --server http://localhost:8080/v1 --model MODEL
      has a model server read it too, its answers held against the words; its key is taken from OTTIK_MODEL_KEY
  ottik find WORDS [--json] [--newest] [--database FILE]
      looks for words, or answers a question, as the page Find does: ottik find what is late?
  ottik check [DATABASE]
      replays the events of every commitment and tells where what is stored differs
  ottik backup [DATABASE]
      copies the database while Ottik runs, and checks the copy
  ottik restore [BACKUP] [--to DATABASE]
      puts a backup, by default the newest, in place of the database; what was there is put aside
  ottik password ADDRESS
      another password for somebody who signs in here, read from the standard input
  ottik export FOLDER
      the whole workspace in open formats: JSON lines, records as they were brought in, answers, minutes in Markdown
  ottik import FOLDER [--to DATABASE]
      a new database from what was exported
`;

// a command reads one thing and ends
process.env.OTTIK_WORK = 'here';

async function main(argv: string[]): Promise<number> {
  const [command, ...rest] = argv;
  if (command === 'sift') return runSift(rest);
  if (command === 'find') return runFind(rest);
  if (command === 'check') return runCheck(rest);
  if (command === 'backup') return runBackup(rest);
  if (command === 'restore') return runRestore(rest);
  if (command === 'password') return runPassword(rest);
  if (command === 'export') return runExport(rest);
  if (command === 'import') return runImport(rest);
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
