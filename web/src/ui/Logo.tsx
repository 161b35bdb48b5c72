export function Logo() {
  return (
    <span className="logo">
      <svg viewBox="0 0 34 22" aria-hidden="true">
        <path d="M2 18h30M4 18c0-3.4 2.2-5.4 6.4-6.2l11-1.1c4 0 6.6 3 6.6 7.3" />
        <path className="screen" d="M12.5 11.4 16.4 5" />
      </svg>
      Cabrio
    </span>
  );
}
