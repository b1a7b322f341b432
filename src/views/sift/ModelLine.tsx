import type { ModelReading } from '../../server/sift/model-reading.ts';

interface Props {
  model: ModelReading;
  running: boolean;
  onTurn(): void;
  onAct(body: { do: 'switch off' } | { do: 'private'; private: boolean }): void;
}

const count = (n: number, one: string, many = `${one}s`) => `${n.toLocaleString('en')} ${n === 1 ? one : many}`;
const seconds = (ms: number) => (ms < 10_000 ? `${(ms / 1000).toFixed(1)} s` : `${Math.round(ms / 1000)} s`);

/** What would go out with a question, and to whom, as the end of a sentence: told before anything does. */
export function outgoingInWords(m: ModelReading): string {
  const with_ = [count(m.people, 'person', 'people'), count(m.open, 'open commitment'), m.notes ? `${count(m.notes, 'note')} of yours` : ''].filter(Boolean);
  return `sends ${count(m.words, 'word')} of this record to ${m.host}${m.standIn ? ', the stand-in on this machine' : ''}, with ${with_.slice(0, -1).join(', ')}${with_.length > 1 ? ' and ' : ''}${with_.at(-1)}. ${m.masked ? 'Names go as “Person 1”, “Person 2”.' : 'Names go as they are.'}`;
}

/** How the model reader stands with this record, as a sentence with its one key. */
export function ModelLine({ model, running, onTurn, onAct }: Props) {
  const { reading } = model;
  const key = (words: string) => (
    <button type="button" className="may line" onClick={onTurn}>
      {words} <kbd>R</kbd>
    </button>
  );
  const label = model.standIn ? 'Model reader, a stand-in' : 'Model reader';
  const off = (
    <button type="button" className="may line" onClick={() => onAct({ do: 'switch off' })}>
      Switch off in this project
    </button>
  );
  return (
    <div className="say model" role="status">
      <b>{label}</b>
      {model.private ? (
        <>
          <span>This record is private: its words do not leave this machine.</span>
          <button type="button" className="may line" onClick={() => onAct({ do: 'private', private: false })}>
            Let the model read it
          </button>
        </>
      ) : running && reading ? (
        <>
          <span>{reading.state === 'waiting' ? 'Its turn comes after other records.' : `Reading part ${Math.min(reading.parts, reading.done + 1)} of ${reading.parts}${reading.coming ? `, ${count(reading.coming, 'character')} answered` : ''}. ${reading.found ? `${count(reading.found, 'find')} so far.` : ''}`}</span>
          {key('Stop')}
        </>
      ) : reading?.state === 'done' ? (
        <>
          <span>
            {count(reading.found, 'find')} held up against the words, {reading.both} of them Sift had too. {count(model.words, 'word')} in {seconds(reading.milliseconds)}.{reading.dropped.length > 0 && <span className="moss"> {reading.dropped.join('. ')}.</span>}
          </span>
          {model.on ? off : key('Switch on')}
        </>
      ) : reading?.state === 'failed' ? (
        <>
          <span>
            <span className="late">{reading.why}</span> Sift’s own finds stand{reading.done ? `, and those of ${count(reading.done, 'part')}` : ''}.
          </span>
          {key('Ask again')}
          {model.on && off}
        </>
      ) : reading?.state === 'cancelled' ? (
        <>
          <span>Stopped. {reading.done ? `What the first ${count(reading.done, 'part')} gave stands.` : 'Nothing of it was kept.'}</span>
          {key('Read it')}
          {model.on && off}
        </>
      ) : (
        <>
          <span>
            {model.on ? 'Has not read this record. ' : 'Off in this project. '}
            <span className="moss">
              {model.on ? 'Reading it' : 'Switching it on'} {outgoingInWords(model)}
              {model.on ? '' : ' Later records of this project go there too.'}
            </span>
          </span>
          {key(model.on ? 'Read it' : 'Switch it on')}
          <button type="button" className="may line" onClick={() => onAct({ do: 'private', private: true })}>
            Never this record
          </button>
        </>
      )}
    </div>
  );
}
