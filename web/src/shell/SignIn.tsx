import { useQuery, useQueryClient } from '@tanstack/react-query';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { api, rememberToken, type Schemas } from '../lib/client';
import { demoPeopleQuery, meQuery, vocabularyQuery } from '../lib/queries';
import { useApiForm } from '../ui/form';
import { Notice } from '../ui/marks';
import { ROLES } from '../lib/me';
import { Logo } from '../ui/Logo';

const useSignIn = (enter: (me: Schemas['Me']) => void) =>
  api.useMutation('post', '/api/session', { onSuccess: enter });

export function SignIn({ demo }: { demo: boolean }) {
  const queries = useQueryClient();
  const enter = (me: Schemas['Me']) => {
    rememberToken(me.token);
    // what another person saw is not shown to this one, not even until it is asked for anew
    const ofAll: unknown[] = [meQuery.queryKey[1], vocabularyQuery.queryKey[1]];
    queries.removeQueries({ predicate: (query) => !ofAll.includes(query.queryKey[1]) });
    queries.setQueryData(meQuery.queryKey, me);
  };
  const signIn = useSignIn(enter);
  const asDemo = api.useMutation('post', '/api/session/demo', { onSuccess: enter });
  const people = useQuery({ ...demoPeopleQuery, enabled: demo });
  const failed = signIn.error ?? asDemo.error;
  return (
    <main className="sign-in">
      <section className="sign-in-sheet">
        <h1>
          <Logo />
        </h1>
        <p className="lead">
          Calculate the set-up from your car’s own numbers, book every change, and see what to
          recheck before it runs.
        </p>
        {failed && <Notice tone="draft">{failed.message}</Notice>}
        {demo && people.data && (
          <>
            <h2>The demo’s people</h2>
            <p className="hint">A made-up team. One press signs you in.</p>
            <ul className="people">
              {people.data.people.map((person) => (
                <li key={person.id}>
                  <button
                    type="button"
                    disabled={asDemo.isPending}
                    onClick={() => asDemo.mutate({ body: { person: person.id } })}
                  >
                    <b>{person.name}</b>
                    <span>
                      {person.role} · {ROLES[person.role]}
                    </span>
                  </button>
                </li>
              ))}
            </ul>
          </>
        )}
        <h2>{demo ? 'Or with a password' : 'Sign in'}</h2>
        <PasswordForm enter={signIn} />
      </section>
    </main>
  );
}

interface PasswordProps {
  enter: ReturnType<typeof useSignIn>;
}

function PasswordForm({ enter }: PasswordProps) {
  const form = useApiForm({
    id: 'sign-in',
    defaults: { email: '', password: '' },
    save: enter,
    send: (body) => enter.mutate({ body }),
  });
  return (
    <Form
      onSubmit={(event) => {
        event.preventDefault();
        form.send(false);
      }}
    >
      <Form.Group controlId="email" className="field">
        <Form.Label>E-mail address</Form.Label>
        <Form.Control
          type="email"
          autoComplete="username"
          required
          {...form.values.register('email')}
        />
      </Form.Group>
      <Form.Group controlId="password" className="field">
        <Form.Label>Password</Form.Label>
        <Form.Control
          type="password"
          autoComplete="current-password"
          required
          {...form.values.register('password')}
        />
      </Form.Group>
      <Button type="submit" variant="dark" disabled={enter.isPending}>
        Sign in
      </Button>
    </Form>
  );
}
