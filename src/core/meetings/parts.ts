/** What somebody does at the meetings of a series. */
export const PARTS = ['leads', 'keeps minutes', 'attends', 'may attend'] as const;
export type Part = (typeof PARTS)[number];
