import type { ReactNode } from 'react';

export function Legend() {
  const line = <path d="M0 8H26" stroke="var(--ink)" strokeWidth="1.5" />;
  const items: [string, ReactNode][] = [
    [
      'made or said again',
      <>
        {line}
        <circle cx="13" cy="8" r="4" fill="var(--ink)" />
      </>,
    ],
    [
      'moved',
      <>
        {line}
        <circle cx="13" cy="8" r="3.6" fill="var(--lichen)" stroke="var(--ink)" strokeWidth="1.6" />
      </>,
    ],
    [
      'handed over',
      <>
        {line}
        <path d="M9 13L17 3" stroke="var(--ink)" strokeWidth="1.8" />
      </>,
    ],
    [
      'done',
      <>
        <path d="M0 8H20" stroke="var(--ink)" strokeWidth="1.5" />
        <rect x="20" y="2" width="3.5" height="12" fill="var(--fern)" />
      </>,
    ],
    [
      'dropped',
      <>
        <path d="M0 8H14" stroke="var(--moss)" strokeWidth="1.5" />
        <path d="M14 8l9 -5M14 8h11M14 8l9 5" stroke="var(--moss)" fill="none" />
      </>,
    ],
    [
      'merged',
      <>
        <path d="M0 8H18" stroke="var(--ink)" strokeWidth="1.5" />
        <path d="M12 3L21 8L12 13" stroke="var(--ink)" strokeWidth="1.6" fill="none" strokeLinejoin="round" />
      </>,
    ],
    ['waiting', <path key="w" d="M0 8H26" stroke="var(--ink)" strokeWidth="1.5" strokeDasharray="3 4" />],
    ['late', <path key="l" d="M0 8H26" stroke="var(--brick)" strokeWidth="3" />],
    [
      'due',
      <>
        <path d="M0 8H20" stroke="var(--rule-strong)" />
        <path d="M20 3v10" stroke="var(--moss)" />
      </>,
    ],
  ];
  return (
    <ul className="weave-legend" aria-label="What the signs mean">
      {items.map(([words, drawing]) => (
        <li key={words}>
          <svg width="28" height="16" aria-hidden="true">
            {drawing}
          </svg>
          {words}
        </li>
      ))}
    </ul>
  );
}
