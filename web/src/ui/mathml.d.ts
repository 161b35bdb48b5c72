/** MathML in JSX: the browser draws it, React's types do not know it. */
import 'react';

type MathElement = React.DetailedHTMLProps<React.HTMLAttributes<MathMLElement>, MathMLElement>;

declare module 'react' {
  namespace JSX {
    interface IntrinsicElements {
      math: MathElement;
      mrow: MathElement;
      mi: MathElement;
      mn: MathElement;
      mo: MathElement;
      mtext: MathElement;
      msub: MathElement;
      msup: MathElement;
      msqrt: MathElement;
      mspace: MathElement & { width?: string };
    }
  }
}
