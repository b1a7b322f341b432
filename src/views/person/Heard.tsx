import { addDays, daysBetween, weekday } from '../../core/dates/calendar.ts';
import { dayAndMonth } from '../../core/language/days.ts';
import type { PersonProps } from '../../server/pages/person.ts';

const LEFT = 112;
const WIDE = 868;

/** Meetings shared, letters and answers on one line of weeks; what has had no answer for long is dashed. */
export function Heard({ from, meetings, letters, answers, silentFor, today }: PersonProps['heard'] & { today: string }) {
  const span = daysBetween(from, today);
  const x = (day: string) => LEFT + (daysBetween(from, day) / span) * WIDE;
  const mondays: string[] = [];
  for (let d = addDays(from, (8 - weekday(from)) % 7); d <= today; d = addDays(d, 7)) mondays.push(d);
  const silentFrom = silentFor !== null && silentFor > 0 ? addDays(today, -silentFor) : null;
  return (
    <svg viewBox="0 0 1048 124" width="1048" height="124" role="img" aria-label={`Heard in ${meetings.length} meetings; ${letters.length} letters, ${answers.length} answers${silentFor ? `; silent for ${silentFor} days` : ''}`}>
      {mondays.map((m) => (
        <g key={m}>
          <path d={`M${x(m)} 6V118`} stroke="var(--rule)" />
          <text x={x(m) + 6} y={18} fontSize={12} fill="var(--moss)">
            {dayAndMonth(m)}
          </text>
        </g>
      ))}
      {['In meetings', 'Letters', 'Answers'].map((name, i) => (
        <text key={name} x={0} y={44 + i * 30} fontSize={13} fill="var(--ink)">
          {name}
        </text>
      ))}
      {meetings.length > 0 && <path d={`M${x(meetings[0]!)} 40H${x(today)}`} stroke="var(--ink)" strokeWidth={1.3} />}
      {meetings.map((m, i) => (
        <circle key={`${m}${i}`} cx={x(m)} cy={40} r={4} fill="var(--ink)" />
      ))}
      {letters.length > 0 && <path d={`M${x(letters[0]!.on)} 70H${x(today)}`} stroke="var(--ink)" strokeWidth={1.3} />}
      {letters.map((l, i) => (
        <circle key={`${l.on}${i}`} cx={x(l.on)} cy={70} r={4} fill={l.late ? 'var(--brick)' : 'var(--ink)'} />
      ))}
      {answers.map((a, i) => (
        <path key={`${a}${i}`} d={`M${x(a) - 3} 95l6 5l-6 5`} fill="none" stroke="var(--ink)" strokeWidth={1.7} />
      ))}
      {answers.length > 0 && <path d={`M${x(answers[0]!)} 100H${silentFrom ? Math.max(x(answers.at(-1)!), x(silentFrom)) : x(today)}`} stroke="var(--ink)" strokeWidth={1.3} />}
      {silentFrom && (
        <>
          <path d={`M${x(silentFrom)} 100H${x(today)}`} stroke="var(--brick)" strokeWidth={1.6} strokeDasharray="3 4" />
          <text x={Math.max(LEFT, Math.min(x(silentFrom) + 6, LEFT + WIDE - 120))} y={118} fontSize={12} fontWeight={600} fill="var(--brick)">
            silent for {silentFor} {silentFor === 1 ? 'day' : 'days'}
          </text>
        </>
      )}
      {letters.length === 0 && (
        <text x={LEFT} y={74} fontSize={12} fill="var(--moss)">
          none in these weeks
        </text>
      )}
      <path d={`M${x(today)} 6V118`} stroke="var(--line)" strokeWidth={1.5} />
    </svg>
  );
}
