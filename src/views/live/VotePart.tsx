import { useState } from 'react';
import type { RoomVote, VoteChange } from '../../server/meetings/live/votes.ts';
import { SaveOrLeave } from '../parts/SaveOrLeave.tsx';

interface Props {
  vote: RoomVote;
  onChange(change: VoteChange): void;
}

/** A vote under way: everybody spreads their votes over the ideas, and sees how they stand. */
export function VotePart({ vote, onChange }: Props) {
  const spent = vote.mine.reduce((n, m) => n + m, 0);
  const set = (at: number, by: 1 | -1) => onChange({ do: 'spread', vote: vote.id, marks: vote.mine.map((m, n) => (n === at ? m + by : m)) });
  return (
    <section className="vote" aria-label="Vote">
      <h2 className="lh">
        Vote
        <span>
          {vote.each - spent} of your {vote.each} left; {vote.voters} {vote.voters === 1 ? 'person has' : 'people have'} voted
        </span>
      </h2>
      <p className="strong">{vote.question}</p>
      <ul>
        {vote.ideas.map((idea, n) => (
          <li key={idea.text}>
            <span>{idea.text}</span>
            <button type="button" className="may" disabled={(vote.mine[n] ?? 0) === 0} aria-label={`One less for ${idea.text}`} onClick={() => set(n, -1)}>
              −
            </button>
            <b role="img" aria-label={`${vote.mine[n] ?? 0} of yours for ${idea.text}`}>
              {'●'.repeat(vote.mine[n] ?? 0) || '·'}
            </b>
            <button type="button" className="may" disabled={spent >= vote.each} aria-label={`One more for ${idea.text}`} onClick={() => set(n, 1)}>
              +
            </button>
            <span className="strong count">{idea.votes}</span>
          </li>
        ))}
      </ul>
      <p className="acts">
        <button type="button" className="may" onClick={() => onChange({ do: 'close vote', vote: vote.id })}>
          Close the vote
        </button>
        <span className="moss n13">What comes of it becomes a line, with its figures.</span>
      </p>
    </section>
  );
}

const USUAL_VOTES = 3;

/** A vote being put: the question, one idea a line, and how many votes everybody has. */
export function VoteFields({ onKeep, onLeave }: { onKeep(change: VoteChange): void; onLeave(): void }) {
  const [now, setNow] = useState({ question: '', ideas: '', each: String(USUAL_VOTES) });
  const ideas = now.ideas
    .split('\n')
    .map((i) => i.trim())
    .filter((i) => i !== '');
  return (
    <form
      className="point-fields"
      onSubmit={(e) => {
        e.preventDefault();
        if (ideas.length > 1) onKeep({ do: 'vote', question: now.question, ideas, each: Math.max(1, Math.min(20, Number(now.each) || USUAL_VOTES)) });
      }}
      onKeyDown={(e) => {
        if (e.key !== 'Escape') return;
        e.preventDefault();
        onLeave();
      }}
    >
      <label>
        Question
        {/* biome-ignore lint/a11y/noAutofocus: the fields open because a key was pressed */}
        <input autoFocus required minLength={2} maxLength={300} value={now.question} placeholder="Where does the trunk go?" onChange={(e) => setNow({ ...now, question: e.target.value })} />
      </label>
      <label className="short">
        Votes each
        <input inputMode="numeric" value={now.each} onChange={(e) => setNow({ ...now, each: e.target.value.replace(/\D/g, '').slice(0, 2) })} />
      </label>
      <label className="wide">
        Ideas, one a line
        <textarea required rows={3} maxLength={4000} value={now.ideas} onChange={(e) => setNow({ ...now, ideas: e.target.value })} />
      </label>
      {ideas.length === 1 && <span className="soon n13">A vote needs at least two ideas.</span>}
      <SaveOrLeave onLeave={onLeave} />
    </form>
  );
}
