import { itemFoot, type Minutes, type Run } from './minutes.ts';

/** What is said at the foot of a version. */
export interface Standing {
  version: number | null;
  issuedOn: string | null;
  changes: readonly string[];
  /** the day things stand so, for what is no version */
  asOf?: string;
}

const escapeMarkdown = (text: string) => text.replace(/([\\`*_[\]<>|~])/g, '\\$1').replace(/^([ \t]{0,40})([#+-]|\d{1,9}\.)([ \t])/gm, '$1\\$2$3');
const inMarkdown = (runs: readonly Run[]) =>
  runs
    .map((r) => {
      if (r.text === '\n') return '  \n';
      const said = escapeMarkdown(r.text);
      const inner = said.trim();
      const [before, after] = [said.slice(0, said.indexOf(inner)), said.slice(said.indexOf(inner) + inner.length)];
      const marks = `${r.bold ? '**' : ''}${r.italic ? '*' : ''}`;
      return inner ? `${before}${marks}${inner}${[...marks].reverse().join('')}${after}` : said;
    })
    .join('');
const cell = (text: string) =>
  escapeMarkdown(text)
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean)
    .join(' ');

/** The line that says which version this is. */
export function standingLine({ version, issuedOn, asOf }: Standing): string {
  if (asOf) return `As it stands on ${asOf}`;
  return version ? `Version ${version}, issued ${issuedOn}` : 'Draft, not issued';
}

/** Minutes as CommonMark with tables. */
export function minutesMarkdown(m: Minutes, standing: Standing): string {
  const out = [`# ${escapeMarkdown(m.title)}`, ...m.under.map(escapeMarkdown), `*${standingLine(standing)}*`];
  for (const b of m.blocks) {
    if (b.kind === 'heading') out.push(`${'#'.repeat(b.level)} ${escapeMarkdown(b.text)}`);
    else if (b.kind === 'text') out.push(inMarkdown(b.runs));
    else if (b.kind === 'list') out.push(b.items.map((i, k) => `${b.ordered ? `${k + 1}.` : '-'} ${inMarkdown(i)}`).join('\n'));
    else if (b.kind === 'table') out.push([`| ${b.head.map(cell).join(' | ')} |`, `|${b.head.map(() => ' --- |').join('')}`, ...b.rows.map((r) => `| ${r.map(cell).join(' | ')} |`)].join('\n'));
    else
      out.push(
        b.items
          .map((i) => {
            const foot = itemFoot(b.of, i);
            return `- **${i.ref}** ${escapeMarkdown(i.text)}${foot ? ` (${escapeMarkdown(foot)})` : ''}`;
          })
          .join('\n'),
      );
  }
  if (standing.changes.length) out.push('## Changed since the version before', standing.changes.map((c) => `- ${escapeMarkdown(c)}`).join('\n'));
  return `${out.join('\n\n')}\n`;
}

const escapeHtml = (text: string) => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');
const inHtml = (runs: readonly Run[]) => runs.map((r) => (r.text === '\n' ? '<br>' : `${r.bold ? '<b>' : ''}${r.italic ? '<i>' : ''}${escapeHtml(r.text)}${r.italic ? '</i>' : ''}${r.bold ? '</b>' : ''}`)).join('');

const STYLE = `body{margin:0;padding:32px 24px;background:#fff;color:#15201B;font:16px/24px Georgia,"Times New Roman",serif}main{max-width:680px;margin:0 auto}h1{font-size:26px;line-height:32px;margin:0}h2{font-size:16px;margin:24px 0 6px}h3{font-size:15px;margin:14px 0 4px}p{margin:0 0 8px}.under{color:#54635B;font-size:14px}ul,ol{margin:0 0 8px;padding-left:22px}.items{list-style:none;padding:0}.items li{padding:0 0 6px 64px;position:relative}.items b:first-child{position:absolute;left:0}.foot{color:#54635B}table{border-collapse:collapse;width:100%;font-size:14px}th,td{text-align:left;vertical-align:top;padding:3px 12px 3px 0;border-bottom:1px solid #D3DAD3}@media print{thead{display:table-header-group}tr,li{break-inside:avoid}h2,h3{break-after:avoid}}`;

/** Minutes as one HTML page that needs nothing besides itself; every word is escaped. */
export function minutesHtml(m: Minutes, standing: Standing): string {
  const out = [`<h1>${escapeHtml(m.title)}</h1>`, ...m.under.map((u) => `<p class="under">${escapeHtml(u)}</p>`), `<p class="under">${escapeHtml(standingLine(standing))}</p>`];
  for (const b of m.blocks) {
    if (b.kind === 'heading') out.push(`<h${b.level}>${escapeHtml(b.text)}</h${b.level}>`);
    else if (b.kind === 'text') out.push(`<p>${inHtml(b.runs)}</p>`);
    else if (b.kind === 'list') out.push(`<${b.ordered ? 'ol' : 'ul'}>${b.items.map((i) => `<li>${inHtml(i)}</li>`).join('')}</${b.ordered ? 'ol' : 'ul'}>`);
    else if (b.kind === 'table') out.push(`<table><thead><tr>${b.head.map((h) => `<th>${escapeHtml(h)}</th>`).join('')}</tr></thead><tbody>${b.rows.map((r) => `<tr>${r.map((c) => `<td>${escapeHtml(c)}</td>`).join('')}</tr>`).join('')}</tbody></table>`);
    else
      out.push(
        `<ul class="items">${b.items
          .map((i) => {
            const foot = itemFoot(b.of, i);
            return `<li><b>${escapeHtml(i.ref)}</b> ${escapeHtml(i.text)}${foot ? ` <span class="foot">(${escapeHtml(foot)})</span>` : ''}</li>`;
          })
          .join('')}</ul>`,
      );
  }
  if (standing.changes.length) out.push(`<h2>Changed since the version before</h2><ul>${standing.changes.map((c) => `<li>${escapeHtml(c)}</li>`).join('')}</ul>`);
  return `<!doctype html>\n<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>${escapeHtml(m.title)}</title><style>${STYLE}</style></head><body><main>${out.join('\n')}</main></body></html>\n`;
}
