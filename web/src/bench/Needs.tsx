/** What something needs, each one press from where it is entered. */
import { Link } from 'react-router';
import type { Schemas } from '../lib/client';
import { useDictionary } from '../lib/vocabulary';
import { useBench } from './bench';

export function Needs({ needs }: { needs: Schemas['NeedView'][] }) {
  const { bench } = useBench();
  const dictionary = useDictionary();
  return needs.map((need, i) => {
    const to = dictionary.whereEntered(bench.id, bench.discipline, need.name);
    return (
      <span key={need.name}>
        {i > 0 && ', '}
        {to ? <Link to={to}>{need.sentence}</Link> : need.sentence}
      </span>
    );
  });
}
