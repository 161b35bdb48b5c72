/** An inverse question: a target in, proposals out, one press to the slip. */
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useBench } from '../bench/bench';
import { useSlip } from '../bench/slip';
import { changesOf } from '../bench/slipState';
import { api, saidAt, type Schemas } from '../lib/client';
import { showValue } from '../lib/format';
import { useMay } from '../lib/me';
import { useDictionary, whereWords } from '../lib/vocabulary';
import { Notice } from '../ui/marks';
import type { PanelProps } from './props';

export function QuestionPanel({ panel }: PanelProps) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const question = dictionary.data.questions.find((one) => one.name === panel.question);
  const [typed, setTyped] = useState<Record<string, string>>({});
  const answer = api.useMutation('post', '/api/cars/{car_id}/questions/{name}');
  if (!question || question.asks.some(({ name }) => bench.figures[name] === undefined)) return null;
  const problem = answer.error;
  return (
    <section className="question" aria-label={question.label}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          answer.mutate({
            params: { path: { car_id: bench.id, name: panel.question } },
            body: { targets: typed },
          });
        }}
      >
        <h2>{question.label}</h2>
        <p className="hint">{question.help}</p>
        {question.asks.map(({ key, name, place }) => {
          const entry = dictionary.entry(name);
          const shown = dictionary.shown(entry.quantity, bench.profile);
          const id = `${question.name}-${key}`;
          const said = saidAt(problem, key);
          return (
            <div key={key} className={`cell${said ? ' has-problem' : ''}`}>
              <label htmlFor={id}>{whereWords(entry.label, place ? [place] : [])} wanted</label>
              <span className="given-box">
                <input
                  id={id}
                  inputMode="decimal"
                  autoComplete="off"
                  value={typed[key] ?? ''}
                  aria-invalid={said !== undefined}
                  onChange={(event) => {
                    answer.reset();
                    setTyped({ ...typed, [key]: event.target.value });
                  }}
                />
                <small>{shown.symbol}</small>
              </span>
            </div>
          );
        })}
        <Button type="submit" variant="outline-dark" disabled={answer.isPending}>
          {answer.isPending ? 'Calculating …' : 'Propose'}
        </Button>
      </form>
      {problem && <Notice tone="draft">{problem.detail}</Notice>}
      {answer.data && (
        <ol className="proposals">
          {answer.data.proposals.map((one) => (
            <Proposal key={one.label} one={one} />
          ))}
        </ol>
      )}
    </section>
  );
}

function Proposal({ one }: { one: Schemas['ProposalView'] }) {
  const { bench } = useBench();
  const { change } = useSlip();
  const may = useMay('draft');
  const dictionary = useDictionary();
  const shows = one.shows.filter((row) => row.after !== null);
  return (
    <li>
      <b>{one.label}</b>
      <span className="proposal-figures">
        {shows.slice(0, 4).map((row) => {
          const entry = dictionary.entry(row.name);
          const shown = dictionary.shown(entry.quantity, bench.profile);
          return (
            <span key={row.name + row.place}>
              {whereWords(entry.label, [row.place])}{' '}
              {row.before !== null && <>{showValue(row.before, shown)} → </>}
              <b>{showValue(row.after ?? 0, shown)}</b> <small>{shown.symbol}</small>
            </span>
          );
        })}
      </span>
      <small>
        {one.minutes} min with{' '}
        {one.rechecks.length ? one.rechecks.join(', ').toLowerCase() : 'no rechecks'}
      </small>
      {one.notes.map((note) => (
        <small key={note}>{note}</small>
      ))}
      {may && one.lines.length > 0 && (
        <button type="button" className="quiet" onClick={() => change(changesOf(one.lines))}>
          Put on the slip<span className="visually-hidden"> {one.label}</span>
        </button>
      )}
    </li>
  );
}
