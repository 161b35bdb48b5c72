import Modal from 'react-bootstrap/Modal';
import { KIND_WORDS, KindMark, StatusMark, type Kind, type Status } from '../ui/marks';

const STANDS: Record<Status, string> = {
  fresh: 'Fresh: nothing has upset it since it was read.',
  doubtful: 'Doubtful: a later change may have moved it.',
  void: 'Void: a later change has moved it. Read again.',
  missing: 'Missing: never read.',
};

export function Legend({ show, close }: { show: boolean; close: () => void }) {
  return (
    <Modal show={show} onHide={close} centered aria-labelledby="legend-title">
      <Modal.Header closeButton>
        <Modal.Title id="legend-title" as="h2">
          Legend
        </Modal.Title>
      </Modal.Header>
      <Modal.Body className="legend">
        <h3>Kinds of number</h3>
        <ul>
          {(Object.keys(KIND_WORDS) as Kind[]).map((kind) => (
            <li key={kind}>
              <KindMark kind={kind} /> {KIND_WORDS[kind]}
            </li>
          ))}
        </ul>
        <h3>How it stands</h3>
        <ul>
          {(Object.keys(STANDS) as Status[]).map((status) => (
            <li key={status}>
              <StatusMark status={status} /> {STANDS[status]}
            </li>
          ))}
          <li>
            <span className="drafted">70</span> on the slip, not booked yet
          </li>
          <li>
            <em className="predicted">predicted</em> what an instrument would read after the slip
          </li>
          <li>
            <span className="estimate">est.</span> worked from an estimate
          </li>
        </ul>
        <h3>Keys</h3>
        <dl className="keys">
          <dt>
            <kbd>/</kbd> or <kbd>Ctrl K</kbd>
          </dt>
          <dd>
            command line: <code>rear spring 70</code>, <code>front bar +1</code>,{' '}
            <code>go springs</code>, <code>why cross</code>
          </dd>
          <dt>
            <kbd>↑</kbd> <kbd>↓</kbd>
          </dt>
          <dd>
            a step up or down on a setting; <kbd>Shift</kbd> for that side alone; <kbd>Enter</kbd>{' '}
            to type a value
          </dd>
          <dt>
            <kbd>Ctrl Z</kbd>
          </dt>
          <dd>
            undo on the slip; with <kbd>Shift</kbd> redo
          </dd>
          <dt>
            <kbd>?</kbd>
          </dt>
          <dd>this page</dd>
        </dl>
      </Modal.Body>
    </Modal>
  );
}
