/** Parts of a whole side by side, a row for each axle, to one scale: booked filled, drafted under it. */
import { showValue, type Shown } from '../lib/format';

interface Stack {
  label: string;
  booked: number[];
  drafted?: number[] | undefined;
}

interface Props {
  title: string;
  shown: Shown;
  /** What each part is, in the order of the values. */
  parts: readonly string[];
  rows: Stack[];
}

const sum = (values: number[]) => values.reduce((total, one) => total + Math.abs(one), 0);

export function Stacks({ title, shown, parts, rows }: Props) {
  const most = Math.max(...rows.flatMap((row) => [sum(row.booked), sum(row.drafted ?? [])]));
  if (!(most > 0)) return null;
  return (
    <figure className="stacks">
      <figcaption>
        {title}, {shown.symbol}
      </figcaption>
      {rows.map((row) => {
        const drafted =
          row.drafted && showValue(sum(row.drafted), shown) !== showValue(sum(row.booked), shown)
            ? row.drafted
            : null;
        return (
          <div key={row.label} className="stack-row">
            <span>{row.label}</span>
            <div>
              <Bars values={row.booked} most={most} />
              {drafted && <Bars values={drafted} most={most} drafted />}
            </div>
            <span>
              <b>{showValue(sum(row.booked), shown)}</b>
              {drafted && (
                <>
                  {' '}
                  → <b className="drafted">{showValue(sum(drafted), shown)}</b>
                </>
              )}
            </span>
          </div>
        );
      })}
      <div className="stack-key">
        {parts.map((words, i) => (
          <span key={words}>
            <svg viewBox="0 0 6 6" aria-hidden="true">
              <rect className={`part-${i}`} width="6" height="6" />
            </svg>{' '}
            {words}
          </span>
        ))}
      </div>
    </figure>
  );
}

interface BarsProps {
  values: number[];
  most: number;
  drafted?: boolean;
}

function Bars({ values, most, drafted = false }: BarsProps) {
  const sizes = values.map((one) => (100 * Math.abs(one)) / most);
  return (
    <svg
      className={`stack-bar${drafted ? ' is-drafted' : ''}`}
      viewBox="0 0 100 6"
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      {sizes.map((size, i) => (
        <rect
          key={i}
          className={`part-${i}`}
          x={sizes.slice(0, i).reduce((total, one) => total + one, 0)}
          width={size}
          height="6"
        />
      ))}
    </svg>
  );
}
