/** What is watched beside the readings: open issues, parts off, torques, class limits, service. */
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useBench, useSaved } from '../bench/bench';
import { api, type Schemas } from '../lib/client';
import { useMay } from '../lib/me';
import { watchedQuery } from '../lib/queries';
import { OneLine } from '../ui/form';
import { Notice, StatusMark } from '../ui/marks';
import { Moment } from '../ui/states';
import { WatchedForm } from './WatchedForm';

type Watched = Schemas['WatchedView'];
type Kind = Watched['kind'];

const KINDS: Record<Kind, { title: string; add: string; what: string; settled: string }> = {
  issue: { title: 'Open issues', add: 'Open an issue', what: 'What is wrong', settled: 'Settled' },
  removed: {
    title: 'Off the car',
    add: 'Note a part taken off',
    what: 'Part',
    settled: 'Refitted',
  },
  torque: { title: 'Torques', add: 'Add a joint', what: 'Joint', settled: 'Remove' },
  limit: { title: 'Class limits', add: 'Add a limit', what: 'Rule', settled: 'Remove' },
  signed: { title: 'Signed for', add: '', what: '', settled: 'Take back' },
  service: { title: 'Service', add: 'Add a service', what: 'Work', settled: 'Remove' },
};
export function WatchedPanel() {
  const { bench } = useBench();
  const may = useMay('log');
  const found = useQuery(watchedQuery(bench.id));
  const [adding, setAdding] = useState<Kind | null>(null);
  if (found.isError) return <Notice>{found.error.message}</Notice>;
  const list = found.data?.watched ?? [];
  const again = () => void found.refetch();
  return (
    <section className="watched" aria-label="Watched on this car">
      {(Object.keys(KINDS) as Kind[]).map((kind) => {
        const rows = list.filter((one) => one.kind === kind);
        if (rows.length === 0 && !KINDS[kind].add) return null;
        return (
          <section key={kind} aria-label={KINDS[kind].title}>
            <h2>
              {KINDS[kind].title} {rows.length > 0 && <small>{rows.length}</small>}
            </h2>
            <ul>
              {rows.map((one) => (
                <Row key={one.id} one={one} again={again} />
              ))}
            </ul>
            {may && KINDS[kind].add && adding !== kind && (
              <button type="button" className="quiet" onClick={() => setAdding(kind)}>
                {KINDS[kind].add}
              </button>
            )}
            {adding === kind && (
              <WatchedForm
                kind={kind}
                title={KINDS[kind].add}
                what={KINDS[kind].what}
                done={() => setAdding(null)}
                saved={() => {
                  setAdding(null);
                  again();
                }}
              />
            )}
          </section>
        );
      })}
    </section>
  );
}

function Row({ one, again }: { one: Watched; again: () => void }) {
  const { bench } = useBench();
  const may = { read: useMay('read'), release: useMay('release') }[
    one.kind === 'signed' ? 'release' : 'read'
  ];
  const [settling, setSettling] = useState(false);
  const path = { params: { path: { car_id: bench.id, watched_id: one.id } } };
  const done = api.useMutation(
    'post',
    '/api/cars/{car_id}/watched/{watched_id}/done',
    useSaved(again),
  );
  const close = api.useMutation(
    'post',
    '/api/cars/{car_id}/watched/{watched_id}/close',
    useSaved(() => {
      setSettling(false);
      again();
    }),
  );
  const doing = { torque: 'Torqued', service: 'Done' }[one.kind as string];
  const problem = done.error ?? (settling ? null : close.error);
  return (
    <li>
      <span>
        <StatusMark status={one.bars ? 'void' : one.kind === 'issue' ? 'doubtful' : 'fresh'} />{' '}
        {one.stands}
        <small>
          {' '}
          {one.done_at ? (
            <>
              last <Moment at={one.done_at} by={one.done_by} />
            </>
          ) : (
            <Moment at={one.opened_at} by={one.opened_by} />
          )}
        </small>
      </span>
      {may && !settling && (
        <span className="watched-acts">
          {doing && (
            <Button variant="outline-dark" size="sm" onClick={() => done.mutate(path)}>
              {doing}
              <span className="visually-hidden"> {one.words}</span>
            </Button>
          )}
          <button
            type="button"
            className="quiet"
            onClick={() =>
              one.kind === 'issue'
                ? setSettling(true)
                : close.mutate({ ...path, body: { words: '' } })
            }
          >
            {KINDS[one.kind].settled}
            <span className="visually-hidden"> {one.words}</span>
          </button>
        </span>
      )}
      {settling && (
        <OneLine
          label={`How “${one.words}” was settled`}
          placeholder="How was it settled?"
          act="Settled"
          className="withdraw"
          save={close}
          send={(words) => close.mutate({ ...path, body: { words } })}
          done={() => setSettling(false)}
        />
      )}
      {problem && <Notice tone="draft">{problem.errors[0]?.detail ?? problem.detail}</Notice>}
    </li>
  );
}
