import { addDays } from '../../core/dates/calendar.ts';
import { capitalised } from '../../core/language/days.ts';
import type { EventKind } from '../../core/ledger/events.ts';
import { isPutOff } from '../../core/ledger/predicates.ts';
import { ENDED, type Ending } from '../../core/ledger/state.ts';
import { madeAndEnded, type WeaveGroup, type WeaveOrder, type WovenCommitment, weave } from '../../core/ledger/weave.ts';
import { ruleInWords } from '../../core/meetings/recurrence.ts';
import { eventsByCommitment, ledgerRows } from '../ledger/commitments.ts';
import { type Choice, choicesOf, peopleOf } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { recordWords } from '../store/segments.ts';

export const ORDERS: readonly WeaveOrder[] = ['owner', 'age', 'due', 'carried'];

export interface WeaveAsked {
  series: string | null;
  person: string | null;
  order: WeaveOrder;
  closed: boolean;
}

export interface WeaveSitting {
  date: string;
  number: number | null;
  held: boolean;
  made: number;
  ended: number;
  href: string;
}

/** What was said where a knot is. */
export interface KnotWords {
  event: number;
  kind: EventKind;
  on: string;
  by: string;
  voice: string | null;
  text: string | null;
  due: string | null;
  href: string | null;
}

export interface WeaveProps {
  groups: WeaveGroup[];
  names: Record<string, string>;
  people: Choice[];
  sittings: WeaveSitting[];
  words: KnotWords[];
  today: string;
  from: string;
  to: string;
  order: WeaveOrder;
  closed: boolean;
  /** address without order and closed */
  base: string;
}

/** The threads of a series, of a person, or of the whole project. */
export async function weavePage(ws: Workspace, asked: WeaveAsked): Promise<{ title: string; fig: [string, string]; sub: string; view: WeaveProps }> {
  const [rows, people, all, series] = await Promise.all([
    ledgerRows(ws, { project: ws.project, state: asked.closed ? 'all' : 'open', lives: false, ...(asked.series ? { series: asked.series } : {}) }),
    peopleOf(ws, ws.project),
    ws.db.selectFrom('meetings').select(['id', 'date', 'number', 'series_id', 'sifted_at', 'title']).where('project_id', '=', ws.project).where('cancelled_at', 'is', null).orderBy('date').orderBy('id').execute(),
    ws.db.selectFrom('series').select(['id', 'title', 'rule']).where('project_id', '=', ws.project).execute(),
  ]);
  const own = asked.series ? series.find((s) => s.id === asked.series) : null;
  const person = asked.person ? people.find((p) => p.id === asked.person) : null;
  if (own === undefined) throw new Refusal('not-found', 'There is no such series in this project.');
  if (person === undefined) throw new Refusal('not-found', 'There is no such person in this project.');
  const events = await eventsByCommitment(
    ws.db,
    rows.map((r) => r.id),
  );
  const held = (id: number) => (events.get(id) ?? []).some((e) => e.data.owner?.includes(person!.id));
  const woven: WovenCommitment[] = rows.filter((r) => !person || held(r.id)).map((r) => ({ id: r.id, ref: r.ref, events: events.get(r.id) ?? [], carried: r.carried }));
  const groups = weave(woven, asked.order, ws.today, asked.closed);
  const meetings = own ? all.filter((m) => m.series_id === own.id) : all.filter((m) => woven.some((w) => w.events.some((e) => e.meeting === m.id)) || m.date >= ws.today);
  // sittings of several series on one day share a column
  const days = meetings.filter((m, i) => meetings.findIndex((x) => x.date === m.date) === i);
  const past = days.filter((m) => m.date <= ws.today);
  const next = days.filter((m) => m.date > ws.today).slice(0, 2);
  const counts = madeAndEnded(
    woven,
    past.map((m) => m.date),
  );
  const sittings = [...past, ...next].map((m, i): WeaveSitting => ({ date: m.date, number: m.number, held: m.date <= ws.today, made: counts[i]?.made ?? 0, ended: counts[i]?.ended ?? 0, href: `/meetings/${m.id}/sift` }));
  const firsts = woven.flatMap((w) => w.events.slice(0, 1).map((e) => e.on));
  const from = [ws.today, ...firsts, ...sittings.map((s) => s.date)].sort()[0]!;
  const to = [addDays(ws.today, 14), ...next.map((m) => m.date)].sort().at(-1)!;
  const shown = groups.flatMap((g) => g.rows);
  const putOff = new Set((await ledgerRows(ws, { project: ws.project, lives: false })).filter((r) => isPutOff(r, ws.today)).map((r) => r.id));
  // a thread that runs in two groups is one commitment
  const once = [...new Map(shown.filter((r) => r.open && !putOff.has(r.id)).map((r) => [r.id, r])).values()];
  const open = once;
  const late = open.filter((r) => r.late > 0).length;
  const ended = (how: Ending) => shown.filter((r) => r.ended === how).length;
  const told = ENDED.filter((how) => ended(how))
    .map((how) => `${ended(how)} ${how}`)
    .join(', ');
  const total = new Set(shown.map((r) => r.ref)).size;
  return {
    title: own?.title ?? (person ? `What ${person.name} holds and held` : 'The whole project'),
    fig: [own ? capitalised(ruleInWords(own.rule)) : 'Weave', past.length ? `${past.length} held` : 'none held'],
    sub: `${total} ${total === 1 ? 'thread' : 'threads'}: ${open.length} open${late ? `, of which ${late} late` : ''}${told && `; ${told}`}`,
    view: {
      groups,
      names: Object.fromEntries(people.map((p) => [p.id, p.name])),
      people: choicesOf(people, ws.asker),
      sittings,
      words: await knotWords(ws.db, woven, new Map(people.map((p) => [p.id, p.name])), new Set(shown.flatMap((r) => r.knots.map((k) => k.event)))),
      today: ws.today,
      from,
      to,
      order: asked.order,
      closed: asked.closed,
      base: own ? `/weave?series=${encodeURIComponent(own.id)}` : person ? `/weave?person=${encodeURIComponent(person.id)}` : '/weave?',
    },
  };
}

async function knotWords(db: Workspace['db'], woven: readonly WovenCommitment[], names: ReadonlyMap<string, string>, shown: ReadonlySet<number>): Promise<KnotWords[]> {
  const out: KnotWords[] = [];
  for (const c of woven) {
    for (const e of c.events) {
      if (!shown.has(e.id)) continue;
      const place = e.evidence.find((p) => p.role === 'states') ?? e.evidence[0];
      const said = place ? (await recordWords(db, place.record)).segments[place.segment] : undefined;
      out.push({
        event: e.id,
        kind: e.kind,
        on: e.on,
        by: names.get(e.by) ?? e.by,
        voice: said?.voice ?? null,
        text: said && place ? (said.text.slice(place.from, place.to) || said.text).slice(0, 400) : (e.data.reason ?? null),
        due: e.data.due ?? null,
        href: place && e.meeting !== null ? `/meetings/${e.meeting}/sift?record=${place.record}#s${place.segment}` : null,
      });
    }
  }
  return out;
}
