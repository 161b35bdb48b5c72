/** The inventory: every kind of part a car can wear, each with its list and its form. */
import { useEffect, useState, type ReactNode } from 'react';
import { useLocation } from 'react-router';
import { useBench, useSaved } from '../bench/bench';
import { api, type Schemas } from '../lib/client';
import { showPrecise } from '../lib/format';
import { useMay } from '../lib/me';
import { useDictionary } from '../lib/vocabulary';
import { Notice } from '../ui/marks';
import { Moment } from '../ui/states';
import { PartForm, type Editing } from './PartForm';

type Kind = Schemas['PartKindEntry'];
type PartView = Schemas['PartView'];

export function Parts() {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const { hash } = useLocation();
  const asked = decodeURIComponent(hash.slice(1));
  useEffect(() => {
    if (asked) document.getElementById(asked)?.scrollIntoView({ block: 'start' });
  }, [asked]);
  const kinds = dictionary.data.parts.filter(
    (kind) => !kind.layouts.length || kind.layouts.includes(bench.rear_layout),
  );
  return (
    <article className="parts">
      <div className="sheet-head">
        <h1>Inventory</h1>
        <p>
          What the car wears and what lies on the shelf. Fit parts at their stations, by the slip.
        </p>
      </div>
      <nav className="part-index" aria-label="Kinds of part">
        {kinds.map((kind) => (
          <a key={kind.name} href={`#${kind.name}`}>
            {kind.plural} <small>{bench.parts[kind.name]?.length ?? 0}</small>
          </a>
        ))}
      </nav>
      {kinds.map((kind) => (
        <KindOfPart key={kind.name} kind={kind} start={asked === kind.name} />
      ))}
    </article>
  );
}

function KindOfPart({ kind, start }: { kind: Kind; start: boolean }) {
  const { bench } = useBench();
  const may = useMay('give');
  const parts = bench.parts[kind.name] ?? [];
  const [editing, setEditing] = useState<Editing | null>(
    start && parts.length === 0 && may ? { code: '', from: null } : null,
  );
  const remove = api.useMutation('post', '/api/cars/{car_id}/parts/remove', useSaved());
  const takeOut = (code: string) =>
    remove.mutate({ params: { path: { car_id: bench.id } }, body: { kind: kind.name, code } });
  return (
    <section id={kind.name} className="part-kind" aria-label={kind.plural}>
      <h2>{kind.plural}</h2>
      <p className="hint">{kind.help}</p>
      {parts.length === 0 ? (
        <p className="none-yet">No {kind.plural.toLowerCase()} in inventory yet.</p>
      ) : (
        <ul className="part-list">
          {parts.map((one) => (
            <PartLine key={one.code} kind={kind} one={one}>
              {may && <PartActs kind={kind} one={one} edit={setEditing} remove={takeOut} />}
            </PartLine>
          ))}
        </ul>
      )}
      {remove.error && <Notice tone="draft">{remove.error.message}</Notice>}
      {editing ? (
        <PartForm
          key={`${editing.code}-${editing.from?.code ?? ''}`}
          kind={kind}
          editing={editing}
          done={() => setEditing(null)}
        />
      ) : (
        may && (
          <button
            type="button"
            className="btn btn-outline-dark"
            onClick={() => setEditing({ code: '', from: null })}
          >
            Add {kind.label.toLowerCase()}
          </button>
        )
      )}
    </section>
  );
}

/** A part of the inventory, and where it is. */
function PartLine({ kind, one, children }: PartProps & { children: ReactNode }) {
  return (
    <li>
      <b>{one.code}</b>
      <Summary kind={kind} one={one} />
      <small>
        {one.fitted_at.length > 0
          ? `fitted at ${one.fitted_at.join(', ')}`
          : one.in_revision
            ? `worn on revision ${one.in_revision}`
            : 'on the shelf'}
      </small>
      {children}
      {one.corrected.length > 0 && <Corrected kind={kind} one={one} />}
    </li>
  );
}

interface PartProps {
  kind: Kind;
  one: PartView;
}
interface ActsProps extends PartProps {
  edit: (editing: Editing) => void;
  remove: (code: string) => void;
}

function PartActs({ one, edit, remove }: ActsProps) {
  const act = (words: string, run: () => void) => (
    <button type="button" className="quiet" onClick={run}>
      {words}
      <span className="visually-hidden"> {one.code}</span>
    </button>
  );
  return (
    <span className="part-acts">
      {act('Edit', () => edit({ code: one.code, from: one }))}
      {act('Copy', () => edit({ code: '', from: one }))}
      {one.in_revision === null && act('Remove', () => remove(one.code))}
    </span>
  );
}

/** A part on one line: its figures, how long its tables are. */
function Summary({ kind, one }: { kind: Kind; one: PartView }) {
  const said = useSaid(kind)(one.values);
  return (
    <span className="part-said">
      {[...said.slice(0, 5), ...(one.note ? [`“${one.note}”`] : [])].join(' · ')}
    </span>
  );
}

/** What corrections replaced: the old values with who and when. */
function Corrected({ kind, one }: { kind: Kind; one: PartView }) {
  const said = useSaid(kind);
  return (
    <details className="was">
      <summary>
        Corrected <small>{one.corrected.length}</small>
      </summary>
      <ul>
        {[...one.corrected].reverse().map((was) => (
          <li key={was.at + Object.keys(was.values).join()}>
            {said(was.values, true).join(' · ')}, <Moment at={was.at} by={was.by} />
          </li>
        ))}
      </ul>
    </details>
  );
}

/** Values by field in words. What was replaced is told even where it was empty. */
function useSaid(kind: Kind) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  const ofField = (field: Kind['fields'][number], value: unknown): string[] => {
    if (value === null || value === undefined || value === '' || value === false) return [];
    if (field.kind === 'table')
      return Array.isArray(value) && value.length
        ? [`${field.label.toLowerCase()} ${value.length} rows`]
        : [];
    if (typeof value === 'number') {
      const shown = dictionary.shown(field.quantity, bench.profile);
      const label = `${field.group} ${field.label}`.trim().toLowerCase();
      return [`${label} ${showPrecise(value, shown)} ${shown.symbol}`.trim()];
    }
    return field.kind === 'words' && typeof value === 'string' ? [value] : [];
  };
  return (values: Record<string, unknown>, all = false): string[] => [
    ...(all && typeof values.code === 'string' ? [`code ${values.code}`] : []),
    ...(all && typeof values.fits === 'string' ? [`fits ${values.fits}`] : []),
    ...kind.fields
      .filter((field) => field.id in values)
      .flatMap((field) => {
        const found = ofField(field, values[field.id]);
        if (found.length > 0 || !all) return found;
        const value = values[field.id];
        const chosen = field.options.find((one) => one.value === value)?.words;
        const words = value === true ? 'yes' : value === false ? 'no' : (chosen ?? 'not given');
        return [`${field.group} ${field.label} ${words}`.trim().toLowerCase()];
      }),
    ...(all && typeof values.note === 'string'
      ? [values.note ? `note “${values.note}”` : 'no note']
      : []),
  ];
}
