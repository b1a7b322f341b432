/** Scraps of Ines’s days in the demo; days are counted back from the demo’s last working day. */
export const JOTTINGS: readonly { ago: number; text: string; person?: string; standing?: boolean }[] = [
  { ago: 30, person: 'bram', standing: true, text: 'Wants to hear reasons before dates. Then he keeps the date.' },
  { ago: 16, person: 'bram', standing: true, text: 'Letters he reads on Fridays. What is urgent goes to him on the slip.' },
  { ago: 12, person: 'ruth', standing: true, text: 'Has the inspectorate’s ear; ask her before writing to them.' },
  { ago: 9, text: 'Wim: the shed roof drips over the dry corner when the wind is north-east.' },
  { ago: 3, person: 'bram', text: 'Worried about the welder. Offer him the night rate before the next call.' },
  { ago: 2, text: 'Ask Kit whether the night crew could train on Dunlin while she lies at the yard.' },
  { ago: 0, text: 'Hanne in the corridor: the board wants one page, not four, and the picture of the berths on top.' },
];

export const FIRST_THING = 'Ask Hanne for the second training week, before her nine o’clock.';
