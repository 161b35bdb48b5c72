/** The working of a number: formula, inputs with their kinds, convention, source; or what it lacks. */
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import Offcanvas from 'react-bootstrap/Offcanvas';
import { Link } from 'react-router';
import type { NumberName, Schemas } from '../lib/client';
import { workingQuery } from '../lib/queries';
import { useBench } from '../bench/bench';
import { Failed, Moment, Waiting } from '../ui/states';
import { Formula } from '../ui/Formula';
import { KindMark, Notice, StatusMark } from '../ui/marks';
import { showValue } from '../lib/format';
import { PLACE_WORDS, useDictionary } from '../lib/vocabulary';

interface Asked {
  name: NumberName;
  place?: string;
}

export function WorkingPanel({ asked, close }: { asked: Asked | null; close: () => void }) {
  const [trail, setTrail] = useState<NumberName[]>([]);
  const dictionary = useDictionary();
  useEffect(() => setTrail(asked ? [asked.name] : []), [asked]);
  const [leaving, setLeaving] = useState(false); // by a link: the focus then belongs to where it leads
  const name = trail.at(-1);
  const before = trail.at(-2);
  return (
    <Offcanvas
      show={asked !== null}
      onHide={close}
      restoreFocus={!leaving}
      placement="end"
      className="working"
      aria-labelledby="working-title"
    >
      <Offcanvas.Header closeButton>
        <Offcanvas.Title as="h2" id="working-title">
          {name ? dictionary.entry(name).label : ''}
        </Offcanvas.Title>
      </Offcanvas.Header>
      <Offcanvas.Body>
        {before && (
          <button type="button" className="quiet" onClick={() => setTrail(trail.slice(0, -1))}>
            ← {dictionary.entry(before).label}
          </button>
        )}
        {name && (
          <Working
            name={name}
            open={(next) => setTrail([...trail, next])}
            close={() => {
              setLeaving(true);
              close();
            }}
          />
        )}
      </Offcanvas.Body>
    </Offcanvas>
  );
}

function Working({
  name,
  open,
  close,
}: {
  name: NumberName;
  open: (name: NumberName) => void;
  close: () => void;
}) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const entry = dictionary.entry(name);
  const found = useQuery(workingQuery(bench.id, name));
  if (found.isError) return <Failed error={found.error} again={() => void found.refetch()} />;
  if (!found.data) return <Waiting what="Calculating" />;
  const told = found.data;
  return (
    <>
      {told.values && <Values name={name} values={told.values} />}
      {told.status !== 'fresh' && (
        <Notice>
          Worked from a reading that is {told.status}: read it again before you rely on this.
        </Notice>
      )}
      {told.estimated.length > 0 && (
        <Notice>
          Rests on an estimate:{' '}
          {told.estimated.map((one) => dictionary.entry(one).label.toLowerCase()).join(', ')}.
        </Notice>
      )}
      {bench.figures[name]?.ends && <Notice>{bench.figures[name].ends}</Notice>}
      {told.refused && <Notice>{told.refused}</Notice>}
      {!told.missing.length && entry.kind !== 'worked' && (
        <p>
          <Enter name={name} close={close}>
            Go to where it is entered
          </Enter>
        </p>
      )}
      {told.missing.length > 0 && (
        <section className="lacking">
          <h3>What is missing</h3>
          <ul>
            {told.missing.map((need) => (
              <li key={need.name}>
                <StatusMark status="missing" />{' '}
                <Enter name={need.name} place={need.places[0]} close={close}>
                  {need.sentence}
                </Enter>
              </li>
            ))}
          </ul>
        </section>
      )}
      {entry.formula && <Formula text={entry.formula} />}
      {told.origin && <Origin origin={told.origin} />}
      {told.inputs.length > 0 && <Inputs inputs={told.inputs} open={open} />}
      <FinePrint name={name} convention={told.convention} />
    </>
  );
}

/** What a number is by: its convention, its sign, where it is not valid, its source. */
function FinePrint({ name, convention }: { name: NumberName; convention: string }) {
  const entry = useDictionary().entry(name);
  return (
    <>
      {convention && (
        <p className="fine">
          <b>Convention</b> {convention}
        </p>
      )}
      {entry.sign && (
        <p className="fine">
          <b>Sign</b> {entry.sign}
        </p>
      )}
      <p className="fine about">{entry.help}</p>
      {entry.wrong && (
        <p className="fine">
          <b>Not valid</b> {entry.wrong}
        </p>
      )}
      {entry.source && (
        <p className="fine">
          <b>Source</b> {entry.source}
        </p>
      )}
    </>
  );
}

interface InputsProps {
  inputs: Schemas['WorkingView']['inputs'];
  open: (name: NumberName) => void;
}

function Inputs({ inputs, open }: InputsProps) {
  const dictionary = useDictionary();
  return (
    <section>
      <h3>From</h3>
      <ul className="inputs">
        {inputs.map((input) => (
          <li key={input.name}>
            <div>
              <KindMark kind={dictionary.entry(input.name).kind} />
              <button type="button" className="link" onClick={() => open(input.name)}>
                {dictionary.entry(input.name).label}
              </button>
              {input.status !== 'fresh' && <StatusMark status={input.status} />}
            </div>
            {input.values ? (
              <Values name={input.name} values={input.values} small />
            ) : (
              <em>missing</em>
            )}
            {input.assumed && <small>assumed: not given</small>}
            {input.origin && <Origin origin={input.origin} />}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** A link to where a number is entered on this car; plain words where it has no such place. */
function Enter(props: {
  name: NumberName;
  place?: string | undefined;
  close: () => void;
  children: React.ReactNode;
}) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const to = dictionary.whereEntered(bench.id, bench.discipline, props.name);
  if (!to) return props.children;
  const exact = to.includes('/data#') && props.place ? `${to}-${props.place}` : to;
  return (
    <Link to={exact} onClick={props.close}>
      {props.children}
    </Link>
  );
}

function Values({
  name,
  values,
  small = false,
}: {
  name: NumberName;
  values: (number | null)[];
  small?: boolean;
}) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const entry = dictionary.entry(name);
  const shown = dictionary.shown(entry.quantity, bench.profile);
  const places = dictionary.places(name);
  const text = (si: number) =>
    entry.quantity === 'flag'
      ? si > 0.5
        ? 'yes'
        : 'no'
      : `${showValue(si, shown)} ${shown.symbol}`;
  return (
    <dl className={`values values-${entry.shape}${small ? ' values-small' : ''}`}>
      {values.map((value, i) => (
        <div key={places[i]}>
          <dt title={PLACE_WORDS[places[i] ?? '']}>{entry.shape === 'car' ? '' : places[i]}</dt>
          <dd>{value === null ? 'not known' : text(value)}</dd>
        </div>
      ))}
    </dl>
  );
}

function Origin({ origin }: { origin: Schemas['OriginView'] }) {
  return (
    <p className="origin">
      {origin.words}
      {origin.at && (
        <>
          , <Moment at={origin.at} by={origin.by} />
        </>
      )}
      {origin.estimated && <span className="estimate">est.</span>}
    </p>
  );
}
