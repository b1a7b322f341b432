import { useEffect, useState } from 'react';
import type { SiftProps } from '../../server/pages/sift.ts';
import { get, wentWrong } from '../parts/api.ts';
import SiftView, { type WholeRecord } from './SiftView.tsx';

/** Sift of a record. The words of a very long one are fetched once the page is there, which nobody else waits for. */
export default function SiftScreen({ record, ...props }: SiftProps) {
  const [words, setWords] = useState<Pick<WholeRecord, 'segments' | 'under'> | null>(record.segments && { segments: record.segments, under: record.under });
  const [wrong, setWrong] = useState<string | null>(null);
  useEffect(() => {
    if (record.segments) return;
    get<NonNullable<typeof words>>(`/api/records/${record.id}/words`).then(setWords, (error: unknown) => setWrong([wentWrong(error).head, wentWrong(error).rest].filter(Boolean).join(' ')));
  }, [record]);
  if (words) return <SiftView {...props} record={{ ...record, ...words }} />;
  return (
    <div className="empty" role="status">
      <h2>{wrong ?? 'A long record'}</h2>
      {!wrong && <p>Its words are on their way.</p>}
    </div>
  );
}
