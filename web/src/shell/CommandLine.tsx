/** The line that understands the trade: changes, goes and explains, without a mouse. */
import { useEffect, useRef, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { useNavigate } from 'react-router';
import { api } from '../lib/client';
import { useSlip } from '../bench/slip';
import { useBench } from '../bench/bench';

export function CommandLine() {
  const { bench, explain } = useBench();
  const { change, coming } = useSlip();
  const navigate = useNavigate();
  const input = useRef<HTMLInputElement>(null);
  const [text, setText] = useState('');
  const [said, setSaid] = useState('');
  const command = api.useMutation('post', '/api/cars/{car_id}/command', {
    onSuccess: (intent) => {
      setText('');
      setSaid(intent.note || (intent.changes.length ? 'On the slip.' : ''));
      if (intent.go) void navigate(`/cars/${bench.id}/${intent.go}`);
      if (intent.why) explain(intent.why.name, intent.why.place ?? undefined);
      if (intent.changes.length) change(intent.changes);
    },
    onError: (error) => setSaid(error.message),
  });
  const focus = () => {
    input.current?.focus();
    input.current?.select();
  };
  useHotkeys(['/', 'shift+/'], focus, {
    useKey: true,
    preventDefault: true,
    enableOnFormTags: ['spinbutton', 'select'],
  });
  useHotkeys('mod+k', focus, { preventDefault: true, enableOnFormTags: true });
  useEffect(() => {
    if (!said || command.isError) return;
    const timer = setTimeout(() => setSaid(''), 4000);
    return () => clearTimeout(timer);
  }, [said, command.isError]);
  return (
    <form
      className="command"
      role="search"
      onSubmit={(event) => {
        event.preventDefault();
        const asked = { params: { path: { car_id: bench.id } }, body: { text } };
        if (text.trim()) coming(command.mutateAsync(asked));
      }}
    >
      <input
        ref={input}
        aria-label="Command line"
        aria-describedby="command-said"
        placeholder="rear spring 70, front bar +1, why cross"
        value={text}
        spellCheck={false}
        autoComplete="off"
        onChange={(event) => {
          setText(event.target.value);
          setSaid('');
        }}
        onKeyDown={(event) => {
          if (event.key === 'Escape') {
            setText('');
            setSaid('');
            event.currentTarget.blur();
          }
        }}
      />
      <kbd>/</kbd>
      <output
        id="command-said"
        className={said ? 'said' : 'visually-hidden'}
        data-error={command.isError}
      >
        {said}
      </output>
    </form>
  );
}
