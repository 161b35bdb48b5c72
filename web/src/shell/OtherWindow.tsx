/** What two windows of one person did to the same rows of a slip, and which of both shall stand. */
import { useBench } from '../bench/bench';
import { bookedValue, useSlip } from '../bench/slip';
import type { Merged } from '../bench/slipState';
import { useWay, type Value } from '../bench/ways';
import { useDictionary, whereWords } from '../lib/vocabulary';
import { Notice } from '../ui/marks';
import { alike, placesInOrder } from './rows';

/** What was wanted here where another window of the same person put it elsewhere meanwhile. */
export function OtherWindow() {
  const { clash, leaveClash, change, remove } = useSlip();
  if (!clash) return null;
  const mine = () => {
    change(clash.clashes.flatMap((one) => one.ours ?? []));
    remove(clash.clashes.filter((one) => one.ours === null));
    leaveClash();
  };
  const rows = alike(clash.clashes, (one) => [one.name, one.theirs?.new, one.ours?.new]);
  return (
    <div className="other-window">
      <Notice tone="draft">Your other window changed this slip meanwhile:</Notice>
      <ul className="reasons">
        {rows.map(
          (row) => row[0] && <Clash key={row[0].name + row[0].place} first={row[0]} row={row} />,
        )}
        {clash.words.map((one) => (
          <li key={one.field}>It wrote “{one.theirs}”. What you typed here stands.</li>
        ))}
      </ul>
      {clash.clashes.length > 0 && (
        <button type="button" className="quiet" onClick={mine}>
          Put mine on
        </button>
      )}{' '}
      <button type="button" className="quiet" onClick={leaveClash}>
        Leave it so
      </button>
    </div>
  );
}

function Clash({ first, row }: { first: Merged['clashes'][number]; row: Merged['clashes'] }) {
  const way = useWay(first.name, first.place);
  const { label } = useDictionary().entry(first.name);
  const { bench } = useBench();
  const dictionary = useDictionary();
  const booked = bookedValue(bench, dictionary.places(first.name), first.name, first.place) ?? null;
  const said = (value: Value) => `${way.show(value)} ${way.unit}`.trim();
  return (
    <li>
      {whereWords(label, placesInOrder(row))}:{' '}
      <b>{first.theirs ? said(first.theirs.new) : `${said(booked)} as booked`}</b> there,{' '}
      <b>{first.ours ? said(first.ours.new) : 'taken off'}</b> here.
    </li>
  );
}
