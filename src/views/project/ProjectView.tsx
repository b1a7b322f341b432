import { useState } from 'react';
import type { CountryChoice } from '../../core/dates/countries.ts';
import type { LetterRules } from '../../core/letters/rules.ts';
import type { Choice } from '../../server/people/people.ts';
import DayKeys from '../parts/DayKeys.tsx';
import type { Said } from '../parts/Foot.tsx';
import KeepDays from './KeepDays.tsx';
import { ProjectEntry } from './ProjectEntry.tsx';
import { Workplace } from './Workplace.tsx';

interface Props {
  project: string;
  name: string;
  archived: boolean;
  keepDays: number;
  country: string;
  workingDays: string;
  rules: LetterRules;
  people: Choice[];
  countries: CountryChoice[];
}

/** How a project works: its name and end, where and when its people work, how long records are kept. */
export default function ProjectView({ project, name, archived, keepDays, country, workingDays, rules, people, countries }: Props) {
  const [said, setSaid] = useState<Said | null>(null);
  return (
    <section className="band" aria-label="Project">
      <p className="fl">Project</p>
      <ProjectEntry project={project} name={name} archived={archived} say={setSaid} />
      {!archived && (
        <>
          <Workplace project={project} country={country} workingDays={workingDays} rules={rules} people={people} countries={countries} say={setSaid} />
          <KeepDays project={project} days={keepDays} />
        </>
      )}
      <DayKeys said={said} />
    </section>
  );
}
