import { useState } from 'react';
import { Foot, type Said } from './Foot.tsx';
import { linkSteps } from './links.ts';

/** Keys of pages that are lists of links: up and down through them, Enter opens. */
export default function DayKeys({ first = '/bring-in', said = null }: { first?: string; said?: Said | null }) {
  const [step] = useState(linkSteps);
  return (
    <Foot
      said={said}
      keys={[
        { key: 'j', does: 'next line (or arrow down)', line: 'Next', run: () => step(1) },
        { key: 'k', does: 'previous line (or arrow up)', run: () => step(-1) },
        { key: 'l', does: 'go to what is lacking first', line: 'What lacks', run: () => document.querySelector<HTMLAnchorElement>('main a.go')?.click() },
        { key: 'i', does: 'bring in a record', line: 'Bring in', run: () => location.assign(first) },
      ]}
    />
  );
}
