import { useCallback, useEffect, useRef, useState } from 'react';
import type { KeptFind } from '../../server/sift/finds.ts';
import type { ModelReading } from '../../server/sift/model-reading.ts';
import { get, post } from '../parts/api.ts';

/** Between two questions how far the model reader is, in milliseconds. */
const ASK_EVERY = 400;

const isRunning = (m: ModelReading | null) => m?.reading?.state === 'waiting' || m?.reading?.state === 'reading';

/**
 * How the model reader stands with a record, and what can be done about it. While it reads it is asked how far it is, and
 * each part's finds are handed over as they come.
 * @param expected whether a reading may begin by itself: the close reader is still at it, and the project has the model read too
 */
export function useModel(meeting: number, record: number, given: ModelReading | null, expected: boolean, got: (finds: KeptFind[]) => void, refused: (error: unknown) => void) {
  const [model, setModel] = useState(given);
  const parts = useRef(given?.reading?.done ?? 0);
  const latest = useRef({ got, refused });
  latest.current = { got, refused };
  const running = isRunning(model);
  const waits = expected && model?.on === true && !model.private && model.reading === null;

  const take = useCallback(
    async (now: ModelReading | null) => {
      const done = now?.reading?.done ?? 0;
      if (done !== parts.current && done > 0) latest.current.got(await get<KeptFind[]>(`/api/meetings/${meeting}/finds?record=${record}`));
      parts.current = done;
      setModel(now);
    },
    [meeting, record],
  );

  useEffect(() => {
    if (!running && !waits) return;
    let over = false;
    let timer = 0;
    const ask = async () => {
      const now = await get<ModelReading | null>(`/api/records/${record}/model`).catch(() => undefined);
      if (over) return;
      if (now !== undefined) await take(now);
      if (!over) timer = window.setTimeout(ask, ASK_EVERY);
    };
    timer = window.setTimeout(ask, ASK_EVERY);
    return () => {
      over = true;
      clearTimeout(timer);
    };
  }, [record, running, waits, take]);

  const act = async (body: { do: 'switch on' | 'switch off' | 'read by model' | 'cancel' } | { do: 'private'; private: boolean }) => {
    try {
      if (body.do === 'switch on' || body.do === 'read by model') parts.current = 0;
      await take(await post<ModelReading | null>(`/api/records/${record}/model`, body));
    } catch (error) {
      latest.current.refused(error);
    }
  };
  /** What R does: it begins, it stops, it begins again. */
  const turn = () => {
    if (!model || model.private) return;
    if (running) void act({ do: 'cancel' });
    else void act({ do: model.on ? 'read by model' : 'switch on' });
  };
  return { model, running, act, turn };
}
