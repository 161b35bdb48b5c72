/** Photos and short clips of a run: taken at the car, looked at when the change is judged. */
import { useRef, useState, type ChangeEvent } from 'react';
import { useBench, useSaved } from '../bench/bench';
import { api, type Schemas } from '../lib/client';
import { useMay } from '../lib/me';
import { shrunk } from '../lib/photo';
import { Notice } from '../ui/marks';
import { ToAdvice, usePhases } from './Words';

const KEPT = 'image/jpeg,image/png,image/webp,video/mp4,video/webm';

export function Pictures({ run }: { run: Schemas['RunView'] }) {
  const { bench } = useBench();
  const may = useMay('log');
  const chooser = useRef<HTMLInputElement>(null);
  const [problem, setProblem] = useState('');
  const add = api.useMutation('post', '/api/cars/{car_id}/runs/{run_id}/pictures', useSaved());
  const remove = api.useMutation('delete', '/api/cars/{car_id}/pictures/{picture_id}', useSaved());
  const take = async (event: ChangeEvent<HTMLInputElement>) => {
    const files = [...(event.target.files ?? [])];
    event.target.value = '';
    setProblem('');
    try {
      for (const file of files) {
        const data = await shrunk(file);
        await add.mutateAsync({
          params: { path: { car_id: bench.id, run_id: run.id } },
          body: { name: file.name.slice(0, 120), data },
        });
      }
    } catch (refused) {
      setProblem(refused instanceof Error ? refused.message : 'That file was not kept.');
    }
  };
  return (
    <>
      {run.pictures.length > 0 && (
        <ul className="run-pictures" aria-label={`Photos of run ${run.number}`}>
          {run.pictures.map((one) => (
            <li key={one.id}>
              <Picture of={one} car={bench.id} />
              <Says run={run} of={one} may={may} />
              <span>
                {one.name} <small>{one.by}</small>{' '}
                {may && (
                  <button
                    type="button"
                    className="quiet"
                    onClick={() =>
                      remove.mutate({ params: { path: { car_id: bench.id, picture_id: one.id } } })
                    }
                  >
                    Remove<span className="visually-hidden"> {one.name}</span>
                  </button>
                )}
              </span>
            </li>
          ))}
        </ul>
      )}
      {problem && <Notice tone="draft">{problem}</Notice>}
      {may && (
        <p className="entry-acts">
          <button
            type="button"
            className="quiet"
            disabled={add.isPending}
            onClick={() => chooser.current?.click()}
          >
            {add.isPending ? 'Sending …' : 'Add a photo or clip'}
          </button>
          <input
            ref={chooser}
            type="file"
            className="visually-hidden"
            tabIndex={-1}
            accept={KEPT}
            multiple
            aria-label={`Photo or clip of run ${run.number}`}
            onChange={(event) => void take(event)}
          />
        </p>
      )}
    </>
  );
}

/** Which phase it shows and what is to be seen, and from there what could be changed. */
function Says({
  run,
  of,
  may,
}: {
  run: Schemas['RunView'];
  of: Schemas['PictureView'];
  may: boolean;
}) {
  const { bench } = useBench();
  const phases = usePhases();
  const [shows, setShows] = useState(of.shows);
  const say = api.useMutation('patch', '/api/cars/{car_id}/pictures/{picture_id}', useSaved());
  const send = (body: Schemas['PictureSays']) =>
    say.mutate({ params: { path: { car_id: bench.id, picture_id: of.id } }, body });
  return (
    <div className="picture-says">
      {may ? (
        <>
          <select
            aria-label={`Phase of ${of.name}`}
            value={of.phase}
            onChange={(event) => send({ phase: event.target.value })}
          >
            <option value="">phase</option>
            {phases.map((phase) => (
              <option key={phase.id} value={phase.id}>
                {phase.label}
              </option>
            ))}
          </select>
          <input
            className="text-input"
            aria-label={`What ${of.name} shows`}
            placeholder="where, what is seen"
            maxLength={120}
            value={shows}
            onChange={(event) => setShows(event.target.value)}
            onBlur={() => shows.trim() !== of.shows && send({ shows })}
          />
        </>
      ) : (
        (of.phase || of.shows) && (
          <p>
            <b>{of.phase}</b> {of.shows}
          </p>
        )
      )}
      {of.phase && <ToAdvice run={run.id} phase={of.phase} />}
      {say.error && <Notice tone="draft">{say.error.message}</Notice>}
    </div>
  );
}

function Picture({ of, car }: { of: Schemas['PictureView']; car: number }) {
  const at = `/api/cars/${car}/pictures/${of.id}`;
  if (of.kind.startsWith('video/'))
    return (
      // a clip from the pit wall has no words to caption
      // eslint-disable-next-line jsx-a11y/media-has-caption
      <video src={at} controls preload="metadata" />
    );
  return (
    <a href={at} target="_blank" rel="noreferrer" aria-label={`Open ${of.name}`}>
      <img src={at} alt={of.name} loading="lazy" />
    </a>
  );
}
