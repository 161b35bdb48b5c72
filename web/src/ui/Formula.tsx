/** A formula typeset as the trade prints it. */
import { Fragment, type ReactNode } from 'react';
import { pieces, type Piece } from '../lib/formula';

export function Formula({ text }: { text: string }) {
  return (
    <p className="formula">
      <math aria-label={text}>
        <mrow>{all(pieces(text))}</mrow>
      </math>
    </p>
  );
}

function all(found: Piece[]): ReactNode {
  return found.map((one, i) => (
    <Fragment key={i}>
      {one.kind === 'words' && i > 0 && <mspace width="0.3em" />}
      <One piece={one} />
    </Fragment>
  ));
}

function One({ piece }: { piece: Piece }): ReactNode {
  switch (piece.kind) {
    case 'name':
      return <mi>{piece.text}</mi>;
    case 'figure':
      return <mn>{piece.text}</mn>;
    case 'sign':
      return <mo>{piece.text}</mo>;
    case 'words':
      return <mtext>{piece.text}</mtext>;
    case 'sub':
      return (
        <msub>
          <mi>{piece.base}</mi>
          <mtext>{piece.index}</mtext>
        </msub>
      );
    case 'power':
      return (
        <msup>
          <One piece={piece.base} />
          <mn>{piece.exponent}</mn>
        </msup>
      );
    case 'root':
      return (
        <msqrt>
          <mrow>{all(piece.inner)}</mrow>
        </msqrt>
      );
  }
}
