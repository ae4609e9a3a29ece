/** Two letters that stand for somebody: of the first and the last word of their name. */
export function initialsOf(name: string): string {
  const words = name.trim().split(/\s+/).filter(Boolean);
  const letters = words.length > 1 ? [words[0], words.at(-1)] : [words[0]];
  return letters
    .map((word) => [...(word ?? '')][0] ?? '')
    .join('')
    .toLocaleUpperCase();
}

export function InitialsChip({ name, title }: { name: string; title: string }) {
  return (
    <span
      role="img"
      aria-label={title}
      title={title}
      className="grid h-5 min-w-5 shrink-0 place-items-center rounded-full border border-ink-3 px-1 text-[10px] font-semibold text-ink-2"
    >
      {initialsOf(name)}
    </span>
  );
}
