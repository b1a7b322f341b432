import { useState } from 'react';
import type { Habit } from '../../core/sift/learned.ts';
import { post, wentWrong } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';

const WORDS: Record<string, string> = { action: 'actions', decision: 'decisions', question: 'open questions', update: 'news of open commitments' };

/** A trait in words: `action without date` and the like stay as they are, kinds are put in the plural. */
function inWords(trait: string): string {
  return WORDS[trait] ?? trait.replace(/^update: /, 'news: ').replace(/^action /, 'actions ');
}

/** How far a habit moves what Sift thinks of a find in the middle of its band. */
function moved({ shift, band }: Habit): string {
  if (shift === 0) return 'as before';
  const middle = { unsure: 0.4, 'fairly sure': 0.7, sure: 0.9 }[band];
  return `${Math.round(100 * middle)} in 100 becomes ${Math.round(100 / (1 + ((1 - middle) / middle) * Math.exp(-shift)))}`;
}

/** What was learned from finds that were taken and passed: every line of it, and a way to forget. */
export default function LearnedView({ project, habits, forgotAt }: { project: string; habits: Habit[]; forgotAt: string | null }) {
  const [said, setSaid] = useState<Said | null>(null);
  const forget = async () => {
    try {
      await post('/api/learned', { do: 'forget', project });
      location.reload();
    } catch (error) {
      setSaid(wentWrong(error));
    }
  };
  return (
    <>
      <section className="everybody">
        {habits.length === 0 ? (
          <div className="calm">
            <h2>Nothing is learned yet</h2>
            <p className="moss">Take and pass finds on the Sift desk, or call them right and wrong. From five of a sort on, later ones are trusted more or less by it.</p>
          </div>
        ) : (
          <table>
            <thead>
              <tr>
                <th scope="col">Finds that are</th>
                <th scope="col" className="n">
                  settled
                </th>
                <th scope="col" className="n">
                  expected right
                </th>
                <th scope="col" className="n">
                  were right
                </th>
                <th scope="col">so later ones</th>
              </tr>
            </thead>
            <tbody>
              {habits.map((h) => (
                <tr key={`${h.trait} ${h.band}`}>
                  <th scope="row">
                    {inWords(h.trait)}, {h.band} ones
                  </th>
                  <td className="n">{h.count}</td>
                  <td className="n">{h.expected.toFixed(1)}</td>
                  <td className="n">{h.right.toFixed(1)}</td>
                  <td className={h.shift < -0.05 ? 'soon' : h.shift > 0.05 ? 'ok' : 'moss'}>{h.count < 5 ? 'not enough of them yet' : moved(h)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        <p className="moss" style={{ maxWidth: 640, paddingTop: 16 }}>
          For each sort of find, apart for those Sift was sure, fairly sure and unsure of: how many it expected to be right, and how many were. One that was taken but put right counts a quarter less for each thing that was changed; one called right or wrong counts as that. The difference, held back while there are few,
          moves the confidence of finds to come, and so what “only sure ones” shows and what can be taken unseen. Only the last 400 count. {forgotAt && `What came before ${forgotAt.slice(0, 10)} is forgotten.`}
        </p>
        {habits.length > 0 && (
          <p className="acts">
            <button type="button" className="may" onClick={() => void forget()}>
              Forget all of it
            </button>
          </p>
        )}
      </section>
      <Foot said={said} keys={[]} />
    </>
  );
}
