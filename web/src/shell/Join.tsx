/** Choosing a password by the link that an owner of the team gave. */
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useNavigate } from 'react-router';
import { api, rememberToken } from '../lib/client';
import { meQuery } from '../lib/queries';
import { useApiForm } from '../ui/form';
import { Logo } from '../ui/Logo';
import { Notice } from '../ui/marks';

export function Join() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [key] = useState(() => window.location.hash.slice(1));
  const join = api.useMutation('post', '/api/join', {
    onSuccess: async (me) => {
      rememberToken(me.token);
      queries.clear();
      queries.setQueryData(meQuery.queryKey, me);
      await navigate('/', { replace: true });
    },
  });
  const form = useApiForm({
    id: 'join',
    defaults: { password: '' },
    save: join,
    send: ({ password }) => join.mutate({ body: { key, password } }),
  });
  return (
    <main className="sign-in">
      <form
        className="sign-in-sheet"
        aria-label="Choose a password"
        onSubmit={(event) => {
          event.preventDefault();
          form.send(false);
        }}
      >
        <h1>
          <Logo />
        </h1>
        <p className="lead">
          Choose the password that you will sign in with. At least 10 characters; a few words that
          do not belong together are best.
        </p>
        {join.error && <Notice tone="draft">{join.error.message}</Notice>}
        <div className="field">
          <label htmlFor="chosen">Password</label>
          <input
            id="chosen"
            className="form-control"
            type="password"
            autoComplete="new-password"
            required
            {...form.values.register('password', { onChange: form.changed })}
          />
        </div>
        <Button type="submit" variant="dark" disabled={join.isPending}>
          Join the team
        </Button>
      </form>
    </main>
  );
}
