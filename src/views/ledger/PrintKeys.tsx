import { Foot } from '../parts/Foot.tsx';

/** The printed page's own keys. */
export default function PrintKeys({ back }: { back: string }) {
  return (
    <>
      <button type="button" className="do" onClick={() => print()}>
        Print <kbd>P</kbd>
      </button>
      <a className="may" href={back}>
        Back to the Ledger <kbd>L</kbd>
      </a>
      <Foot
        said={null}
        keys={[
          { key: 'p', does: 'print it', line: 'Print', run: () => print() },
          { key: 'l', does: 'back to the Ledger', line: 'Ledger', run: () => location.assign(back) },
        ]}
      />
    </>
  );
}
