/** The mass ledger: what each change should have made of the pads, beside what was weighed. */
import { useQuery } from '@tanstack/react-query';
import Table from 'react-bootstrap/Table';
import { useBench } from '../bench/bench';
import { useWay, type Value } from '../bench/ways';
import type { Schemas } from '../lib/client';
import { showChange, showValue } from '../lib/format';
import { ledgerQuery } from '../lib/queries';
import { CORNERS, useDictionary, whereWords } from '../lib/vocabulary';
import { Moment } from '../ui/states';
import { WideTable } from '../ui/WideTable';

type Step = Schemas['LedgerStep'];

/** Beyond this the pads say something that the changes do not explain [kg]. */
const UNEXPLAINED = 2;

export function LedgerPanel() {
  const { bench } = useBench();
  const found = useQuery(ledgerQuery(bench.id));
  const mass = useDictionary().shown('mass', bench.profile);
  const steps = found.data?.steps ?? [];
  if (steps.length === 0) return null;
  return (
    <section className="ledger" aria-label="Mass ledger">
      <h2>Mass ledger</h2>
      <p className="hint">
        What the changes between two readings should have made of the pads, and what was weighed.
        More than {showValue(UNEXPLAINED, mass)} {mass.symbol} apart: something else was moved, or a
        reading is wrong.
      </p>
      {found.data?.perches && <Perches learned={found.data.perches} />}
      {steps.map((step) => (
        <LedgerRow key={`${step.since}-${step.revision}-${step.at}`} step={step} />
      ))}
    </section>
  );
}

/** What a turn of a perch moves on this very car, learned from changes that were weighed. */
function Perches({ learned }: { learned: Schemas['GainView'] }) {
  const percent = (value: number) => `${Math.round(100 * value)} %`;
  return (
    <p>
      Learned from {learned.count} changes of the perches alone: a turn moves{' '}
      <b>
        {percent(learned.share)} ± {percent(learned.error)}
      </b>{' '}
      of the load that is worked out.{' '}
      {learned.sure
        ? `This car does something else than its data${learned.used ? ', and every turn tried is now worked by it' : ''}: look at the perch pitch, the motion ratios and for bind.`
        : 'That is as worked, within what it is known to.'}
    </p>
  );
}

function LedgerRow({ step }: { step: Step }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const shown = { ...dictionary.shown('mass', bench.profile), precision: 0.1 };
  const unexplained = (apart: number) => step.states.length === 0 && Math.abs(apart) > UNEXPLAINED;
  return (
    <div className="ledger-step">
      <p>
        <b>
          Revision {step.since} → {step.revision}
        </b>{' '}
        <Moment at={step.at} by={step.by} />
      </p>
      {step.states.length > 0 && (
        <p className="hint">
          <b>Weighed in another state:</b> {step.states.join(' ')} What is apart is that, too.
        </p>
      )}
      {step.lines.length === 0 && step.states.length > 0 ? null : step.lines.length === 0 ? (
        <p className="hint">Nothing was booked between: the same car weighed again.</p>
      ) : (
        <ul>
          {step.lines.map((line) => (
            <Done key={line.name + line.place} line={line} />
          ))}
        </ul>
      )}
      {step.why && <p className="hint">{step.why}</p>}
      <WideTable label={`Predicted and weighed, revision ${step.revision}`}>
        <Table size="sm" className="in-time-results">
          <thead>
            <tr>
              <td />
              {CORNERS.map((place) => (
                <th key={place} scope="col">
                  {place} <small>{shown.symbol}</small>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            <tr>
              <th scope="row">Predicted</th>
              {CORNERS.map((place, i) => (
                <td key={place}>
                  {step.predicted ? showValue(step.predicted[i] ?? 0, shown) : '–'}
                </td>
              ))}
            </tr>
            <tr>
              <th scope="row">Weighed</th>
              {CORNERS.map((place, i) => (
                <td key={place}>
                  <b>{showValue(step.weighed[i] ?? 0, shown)}</b>
                </td>
              ))}
            </tr>
            {step.predicted && (
              <tr>
                <th scope="row">Apart</th>
                {CORNERS.map((place, i) => {
                  const apart = (step.weighed[i] ?? 0) - (step.predicted?.[i] ?? 0);
                  return (
                    <td key={place} className={unexplained(apart) ? 'word-doubtful' : ''}>
                      {showChange(apart, shown)}
                      {unexplained(apart) && ' not explained'}
                    </td>
                  );
                })}
              </tr>
            )}
          </tbody>
        </Table>
      </WideTable>
    </div>
  );
}

function Done({ line }: { line: Schemas['LineView'] }) {
  const dictionary = useDictionary();
  const way = useWay(line.name, line.place);
  return (
    <li>
      {whereWords(dictionary.entry(line.name).label, [line.place])} {way.show(line.old as Value)} →{' '}
      {way.show(line.new as Value)} <small>{way.unit}</small>
    </li>
  );
}
