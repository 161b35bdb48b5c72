/** The line across the top: the car and what it is prepared for, the command line, the person. */
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import Dropdown from 'react-bootstrap/Dropdown';
import { Link } from 'react-router';
import { ask, client } from '../lib/client';
import { meQuery } from '../lib/queries';
import { Logo } from './Logo';
import { chooseTheme, savedTheme } from '../lib/theme';

export function Header({ children }: { children?: ReactNode }) {
  return (
    <header className="top">
      <Link to="/" className="home" aria-label="Cabrio, to the garage">
        <Logo />
      </Link>
      {children}
      <PersonMenu />
    </header>
  );
}

function PersonMenu() {
  const queries = useQueryClient();
  const me = useQuery(meQuery);
  const [theme, setTheme] = useState(savedTheme());
  const other = theme === 'day' ? 'night' : 'day';
  const leave = async () => {
    await ask(client.DELETE('/api/session'));
    queries.cancelQueries().catch(() => undefined);
    window.location.assign('/');
  };
  return (
    <Dropdown align="end" className="person">
      <Dropdown.Toggle variant="link" id="person-menu">
        {me.data?.name?.split(' ')[0]}
      </Dropdown.Toggle>
      <Dropdown.Menu>
        <Dropdown.ItemText>
          {me.data?.name}
          <small>
            {me.data?.role}, {me.data?.team}
          </small>
        </Dropdown.ItemText>
        <Dropdown.Divider />
        <Dropdown.Item
          as="button"
          onClick={() => {
            chooseTheme(other);
            setTheme(other);
          }}
        >
          {other === 'night' ? 'Night colours' : 'Day colours'}
        </Dropdown.Item>
        <Dropdown.Item as={Link} to="/team">
          {me.data?.abilities.includes('people') ? 'Team and password' : 'Your password'}
        </Dropdown.Item>
        <Dropdown.Item as="button" onClick={() => void leave()}>
          Sign out
        </Dropdown.Item>
      </Dropdown.Menu>
    </Dropdown>
  );
}
