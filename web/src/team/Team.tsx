/** Who belongs to the team (its owners), and one's own password and sign-ins (everyone). */
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link as To } from 'react-router';
import Table from 'react-bootstrap/Table';
import { api, type Schemas } from '../lib/client';
import { ROLES, useMay } from '../lib/me';
import { meQuery, signInsQuery, teamQuery } from '../lib/queries';
import { FormSheet, OtherProblems, SelectField, TextField, useApiForm } from '../ui/form';
import { Header } from '../ui/Header';
import { Notice } from '../ui/marks';
import { Failed, Moment, Waiting } from '../ui/states';
import { WideTable } from '../ui/WideTable';

export function Team() {
  const owner = useMay('people');
  const me = useQuery(meQuery);
  return (
    <>
      <Header />
      <main className="garage team">
        <div className="sheet-head">
          <h1>{owner ? 'Team' : 'Your sign-in'}</h1>
          {owner && (
            <div className="garage-acts">
              <To to="/team/done" className="quiet">
                What was done
              </To>
            </div>
          )}
        </div>
        {owner && <People me={me.data?.name ?? ''} />}
        <section aria-labelledby="own-head">
          <h2 id="own-head">Your password</h2>
          <Password />
          <h2>Where you are signed in</h2>
          <SignIns />
          <h2>What is kept of you</h2>
          <p>
            <a href="/api/session/kept" className="quiet" download>
              All that is kept of you
            </a>{' '}
            as a file: your sign-ins, and everything you did here. To have it taken away ask whoever
            runs the server; your name then goes from the record, too.
          </p>
        </section>
      </main>
    </>
  );
}

function People({ me }: { me: string }) {
  const team = useQuery(teamQuery);
  const queries = useQueryClient();
  const [inviting, setInviting] = useState(false);
  const [made, setMade] = useState<Schemas['Invited'] | null>(null);
  const again = { onSuccess: () => queries.invalidateQueries({ queryKey: teamQuery.queryKey }) };
  const change = api.useMutation('patch', '/api/people/{person_id}', again);
  const link = api.useMutation('post', '/api/people/{person_id}/link', { onSuccess: setMade });
  if (team.isPending) return <Waiting what="Fetching the team" />;
  if (team.isError) return <Failed error={team.error} again={() => void team.refetch()} />;
  const failed = change.error ?? link.error;
  return (
    <section aria-label="People of the team">
      {failed && <Notice>{failed.message}</Notice>}
      {made && <Link made={made} done={() => setMade(null)} />}
      <WideTable label="People of the team">
        <Table size="sm" className="people-table">
          <thead>
            <tr>
              <th scope="col">Name</th>
              <th scope="col">May</th>
              <th scope="col">Owner</th>
              <th scope="col">Last here</th>
              <th scope="col">
                <span className="visually-hidden">What to do</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {team.data.people.map((one) => (
              <PersonRow
                key={one.id}
                one={one}
                isMe={one.name === me}
                set={(body) => change.mutate({ params: { path: { person_id: one.id } }, body })}
                makeLink={() => link.mutate({ params: { path: { person_id: one.id } } })}
              />
            ))}
          </tbody>
        </Table>
      </WideTable>
      {inviting ? (
        <Invite
          done={() => setInviting(false)}
          took={(invited) => {
            setInviting(false);
            setMade(invited);
            void again.onSuccess();
          }}
        />
      ) : (
        <button type="button" className="quiet add-person" onClick={() => setInviting(true)}>
          Add a person
        </button>
      )}
    </section>
  );
}

interface PersonProps {
  one: Schemas['PersonView'];
  isMe: boolean;
  set: (change: Schemas['PersonChange']) => void;
  makeLink: () => void;
}

function PersonRow({ one, isMe, set, makeLink }: PersonProps) {
  return (
    <tr className={one.state === 'shut out' ? 'is-out' : undefined}>
      <th scope="row">
        {one.name}
        <small>{one.email}</small>
      </th>
      <td>
        <select
          aria-label={`Role of ${one.name}`}
          value={one.role}
          onChange={(event) => set({ role: event.target.value })}
        >
          {Object.keys(ROLES).map((role) => (
            <option key={role}>{role}</option>
          ))}
        </select>
        <small>{ROLES[one.role]}</small>
      </td>
      <td>
        <label className="check">
          <input
            type="checkbox"
            aria-label={`${one.name} is an owner`}
            checked={one.owner}
            onChange={() => set({ owner: !one.owner })}
          />
        </label>
      </td>
      <td>
        {one.state !== 'in the team' && <b>{one.state} </b>}
        {one.last_seen ? <Moment at={one.last_seen} /> : one.state === 'invited' ? '' : 'never'}
      </td>
      <td className="row-acts">
        {one.state !== 'shut out' && (
          <button type="button" className="quiet" onClick={makeLink}>
            New link<span className="visually-hidden"> for {one.name}</span>
          </button>
        )}
        {!isMe && (
          <button
            type="button"
            className="quiet"
            onClick={() => set({ disabled: one.state !== 'shut out' })}
          >
            {one.state === 'shut out' ? 'Let in again' : 'Shut out'}
            <span className="visually-hidden"> {one.name}</span>
          </button>
        )}
      </td>
    </tr>
  );
}

/** The link is told once: nobody can read it again, not even in the database. */
function Link({ made, done }: { made: Schemas['Invited']; done: () => void }) {
  const address = `${window.location.origin}${made.path}`;
  const [copied, setCopied] = useState(false);
  return (
    <div className="made-link" role="status">
      <p>
        Give {made.person.name} this link to choose a password. It holds for seven days and works
        once; it is not shown again.
      </p>
      <input
        readOnly
        aria-label={`Link for ${made.person.name}`}
        value={address}
        onFocus={(event) => event.target.select()}
      />
      <p>
        {'clipboard' in navigator && (
          <button
            type="button"
            className="quiet"
            onClick={() => void navigator.clipboard.writeText(address).then(() => setCopied(true))}
          >
            {copied ? 'Copied' : 'Copy it'}
          </button>
        )}{' '}
        <button type="button" className="quiet" onClick={done}>
          Done
        </button>
      </p>
    </div>
  );
}

function Invite({ done, took }: { done: () => void; took: (made: Schemas['Invited']) => void }) {
  const save = api.useMutation('post', '/api/people', { onSuccess: took });
  const form = useApiForm({
    id: 'new',
    defaults: { name: '', email: '', role: 'crew' },
    save,
    send: (body) => save.mutate({ body }),
  });
  return (
    <FormSheet of={form} title="Add a person" act="Make the link" done={done}>
      <div className="cells">
        <TextField of={form} name="name" label="Name" />
        <TextField of={form} name="email" label="E-mail address" type="email" />
        <SelectField
          of={form}
          name="role"
          label="Role"
          options={Object.entries(ROLES).map(([key, may]) => [key, `${key}: ${may}`])}
        />
      </div>
    </FormSheet>
  );
}

function Password() {
  const queries = useQueryClient();
  const [changed, setChanged] = useState(false);
  const save = api.useMutation('put', '/api/session/password', {
    onSuccess: async () => {
      form.values.reset();
      setChanged(true);
      await queries.invalidateQueries({ queryKey: signInsQuery.queryKey });
    },
  });
  const form = useApiForm({
    id: 'own',
    defaults: { old: '', new: '' },
    save,
    send: (body) => {
      setChanged(false);
      save.mutate({ body });
    },
  });
  return (
    <form
      className="own-password"
      aria-label="Change your password"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        form.send(false);
      }}
    >
      <div className="cells">
        <TextField of={form} name="old" label="Present password" type="password" />
        <TextField of={form} name="new" label="New password" type="password" number="password" />
      </div>
      <OtherProblems of={form} />
      <button type="submit" className="quiet" disabled={save.isPending}>
        Change it
      </button>
      <p className="hint" role="status">
        {changed
          ? 'Changed. Every other sign-in has ended.'
          : 'At least 10 characters; a few words that do not belong together are best.'}
      </p>
    </form>
  );
}

function SignIns() {
  const found = useQuery(signInsQuery);
  const queries = useQueryClient();
  const end = api.useMutation('delete', '/api/sign-ins/{sign_in_id}', {
    onSuccess: () => queries.invalidateQueries({ queryKey: signInsQuery.queryKey }),
  });
  if (found.isPending) return <Waiting what="Fetching your sign-ins" />;
  if (found.isError) return <Failed error={found.error} again={() => void found.refetch()} />;
  return (
    <ul className="sign-ins">
      {found.data.sign_ins.map((one) => (
        <li key={one.id}>
          <b>{one.this ? 'This browser' : browser(one.browser)}</b> at {one.machine}, since{' '}
          <Moment at={one.began_at} />
          {!one.this && (
            <>
              , last used <Moment at={one.seen_at} />{' '}
              <button
                type="button"
                className="quiet"
                onClick={() => end.mutate({ params: { path: { sign_in_id: one.id } } })}
              >
                End it<span className="visually-hidden"> at {one.machine}</span>
              </button>
            </>
          )}
        </li>
      ))}
    </ul>
  );
}

/** What kind of device a browser says that it is on; all it says is long and tells no more. */
function browser(said: string): string {
  const device = ['iPad', 'iPhone', 'Android', 'Windows', 'Macintosh', 'Linux'].find((one) =>
    said.includes(one),
  );
  return device ? `A browser on ${device}` : 'A browser';
}
