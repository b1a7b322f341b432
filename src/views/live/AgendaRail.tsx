import { type Clock, clockWords } from '../../core/meetings/live/clock.ts';
import type { Room } from '../../server/meetings/live/room.ts';

/** Pixels a minute. */
const SCALE = 9;
/** Room for a title and a line below it. */
const LEAST = 44;

interface Props {
  room: Room;
  clock: Clock;
  /** minutes since midnight at which it began, or is to begin */
  from: number;
  onPoint(id: number): void;
  onTick(id: number, done: boolean): void;
}

/** The agenda to scale: what each point has used, what is left of it, and where the meeting is. */
export function AgendaRail({ room, clock, from, onPoint, onTick }: Props) {
  let at = from;
  const running = room.state === 'running';
  return (
    <ol className="rail" aria-label="Agenda with its clock">
      {room.points.map((p) => {
        const t = clock.points.find((x) => x.item === p.id)!;
        const starts = at;
        // what is behind stands as long as it took, what is ahead as long as it has
        const minutes = (t.done ? t.used : t.used + t.left) / 60;
        at += minutes;
        const over = t.used > t.planned + 30;
        return (
          <li key={p.id} className={`${t.current ? 'current' : ''}${t.done ? ' done' : ''}`} style={{ minHeight: Math.max(LEAST, Math.round(minutes * SCALE)) }} aria-current={t.current ? 'step' : undefined}>
            <span className="fl">{timeOf(starts)}</span>
            <button type="button" className="title" disabled={!running} onClick={() => onPoint(p.id)}>
              {p.title}
            </button>
            <span className={over ? 'late' : 'moss'}>
              {t.done ? `${clockWords(t.used)} of ${p.minutes}:00` : t.current ? (over ? `${clockWords(t.planned - t.used)} over` : `${clockWords(t.planned - t.used)} left`) : `${p.minutes} min${running && Math.round(t.left / 60) !== p.minutes ? `, ${clockWords(t.left)} left` : ''}`}
            </span>
            <span className="moss why">{[p.why, p.kind === 'own' ? p.by : ''].filter(Boolean).join('; ')}</span>
            {running && (
              <button type="button" className="tick" aria-pressed={t.done} aria-label={t.done ? `${p.title}: not done after all` : `${p.title}: done`} onClick={() => onTick(p.id, !t.done)}>
                {t.done ? '✓' : '○'}
              </button>
            )}
          </li>
        );
      })}
    </ol>
  );
}

const timeOf = (minutes: number): string => {
  const m = Math.round(minutes) % (24 * 60);
  return `${String(Math.floor(m / 60)).padStart(2, '0')}:${String(m % 60).padStart(2, '0')}`;
};
