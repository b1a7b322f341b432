import { type RefObject, useEffect, useRef, useState } from 'react';
import { clock } from '../../core/language/days.ts';
import type { Media } from '../../server/store/codecs.ts';
import type { Said } from '../parts/Foot.tsx';

const SPEEDS = [1, 1.25, 1.5, 2, 2.5] as const;

interface Line {
  key: number;
  start: number | null;
}

/** The line that is spoken at a moment: the last one that has begun. */
export function lineAt<L extends Line>(lines: readonly L[], seconds: number): L | null {
  let found: L | null = null;
  for (const l of lines) {
    if (l.start === null) continue;
    if (l.start > seconds) break;
    found = l;
  }
  return found;
}

interface Props {
  record: number;
  media: Media;
  lines: readonly Line[];
  player: RefObject<HTMLMediaElement | null>;
  onLine(key: number | null): void;
  onGone(): void;
}

/** Plays the recording of a record; the line that is spoken is marked, and a click on a line's time plays from there. */
export function Player({ record, media, lines, player, onLine, onGone }: Props) {
  const [at, setAt] = useState(0);
  const [length, setLength] = useState(0);
  const [playing, setPlaying] = useState(false);
  const [speed, setSpeed] = useState<number>(1);
  const [broken, setBroken] = useState(false);
  const seen = useRef<number | null>(null);
  useEffect(() => {
    if (player.current) player.current.playbackRate = speed;
  }, [speed, player]);
  const measure = () => {
    const seconds = player.current?.duration ?? 0;
    setLength(Number.isFinite(seconds) ? seconds : 0);
  };
  // it may have been loaded before this page was ready to listen
  // biome-ignore lint/correctness/useExhaustiveDependencies: once
  useEffect(measure, []);
  const moveTo = (seconds: number) => {
    if (player.current) player.current.currentTime = seconds;
  };
  const props = {
    src: `/api/records/${record}/media`,
    preload: 'metadata',
    onLoadedMetadata: measure,
    onDurationChange: measure,
    onPlay: () => setPlaying(true),
    onPause: () => setPlaying(false),
    onError: () => setBroken(true),
    onTimeUpdate: () => {
      const now = player.current?.currentTime ?? 0;
      setAt(now);
      const line = lineAt(lines, now)?.key ?? null;
      if (line === seen.current) return;
      seen.current = line;
      onLine(line);
    },
  };
  return (
    <section className="player" aria-label="Recording">
      {media.type.startsWith('video/') ? <video ref={player as RefObject<HTMLVideoElement>} {...props} /> : <audio ref={player as RefObject<HTMLAudioElement>} {...props} />}
      {broken ? (
        <span className="late">This browser cannot play {media.name}.</span>
      ) : (
        <>
          <button type="button" className="do" onClick={() => void (playing ? player.current?.pause() : player.current?.play())}>
            {playing ? 'Stop' : 'Play'} <kbd>Space</kbd>
          </button>
          <input type="range" aria-label="Place in the recording" min={0} max={Math.max(1, length)} step={1} value={at} onChange={(e) => moveTo(Number(e.target.value))} />
          <span className="moss n13">
            {clock(at)} of {clock(length)}
          </span>
          <span className="speeds">
            {SPEEDS.map((s) => (
              <button key={s} type="button" aria-label={`Speed ${s}`} aria-pressed={s === speed} onClick={() => setSpeed(s)}>
                {s}×
              </button>
            ))}
          </span>
        </>
      )}
      <button type="button" className="may line" title={`Take ${media.name} away`} onClick={() => void fetch(`/api/records/${record}/media`, { method: 'DELETE' }).then((r) => r.ok && onGone())}>
        Take it away
      </button>
    </section>
  );
}

/** Attaching a recording, with how far it is and a way to stop. */
export function AttachMedia({ record, onMedia, say }: { record: number; onMedia(media: Media): void; say(said: Said): void }) {
  const [sent, setSent] = useState<number | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const request = useRef<XMLHttpRequest | null>(null);
  const attach = (file: File) => {
    const x = new XMLHttpRequest();
    request.current = x;
    setSent(0);
    const end = (said: Said) => {
      setSent(null);
      say(said);
    };
    x.upload.onprogress = (e) => setSent(e.total ? e.loaded / e.total : 0);
    x.onabort = () => end({ head: 'Stopped', rest: 'nothing was kept of the recording' });
    x.onerror = () => end({ head: 'Ottik cannot be reached.', rest: 'Check that it is running.', bad: true });
    x.onload = () => {
      const answer = JSON.parse(x.responseText || '{}') as Media & { error?: { message: string; advice: string | null } };
      if (x.status === 200) {
        onMedia(answer);
        end({ head: 'Attached', rest: answer.name });
      } else end({ head: answer.error?.message ?? 'The recording was not kept.', rest: answer.error?.advice ?? undefined, bad: true });
    };
    x.open('PUT', `/api/records/${record}/media?name=${encodeURIComponent(file.name)}`);
    x.setRequestHeader('content-type', 'application/octet-stream');
    x.send(file);
  };
  if (sent !== null)
    return (
      <p role="status">
        Attaching, {Math.round(sent * 100)}%{' '}
        <button type="button" className="may line" onClick={() => request.current?.abort()}>
          Stop
        </button>
      </p>
    );
  return (
    <p>
      <button type="button" className="set" onClick={() => input.current?.click()}>
        Attach the recording
      </button>{' '}
      <span className="moss">to hear a line by a click on its time; sound or video, up to 2 GB</span>
      <input ref={input} type="file" hidden accept="audio/*,video/*" aria-label="Recording" onChange={(e) => e.target.files?.[0] && attach(e.target.files[0])} />
    </p>
  );
}
