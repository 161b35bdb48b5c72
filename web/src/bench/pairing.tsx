/** Whether a step moves left and right together; remembered on this device. */
import { useSyncExternalStore } from 'react';
import Form from 'react-bootstrap/Form';

const listeners = new Set<() => void>();
let paired = localStorage.getItem('paired') !== 'no';

export function usePairing(): [boolean, (value: boolean) => void] {
  const value = useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => paired,
  );
  return [
    value,
    (next) => {
      paired = next;
      localStorage.setItem('paired', next ? 'yes' : 'no');
      listeners.forEach((listener) => listener());
    },
  ];
}

export function PairingSwitch() {
  const [value, set] = usePairing();
  return (
    <Form.Check
      type="switch"
      id="pairing"
      className="pairing"
      label="left and right together"
      checked={value}
      onChange={(event) => set(event.target.checked)}
    />
  );
}
