import { Search } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { Logo } from '../ui/logo.tsx';
import { HELP } from './help-text.ts';

/** The parts of the help in which every word of a search stands. */
export function foundHelp(text: string): typeof HELP {
  const words = text.toLocaleLowerCase().split(/\s+/).filter(Boolean);
  return HELP.map((page) => ({
    ...page,
    sections: page.sections.filter((section) => {
      const all = `${page.title} ${section.heading} ${section.text}`.toLocaleLowerCase();
      return words.every((word) => all.includes(word));
    }),
  })).filter(({ sections }) => sections.length > 0);
}

/** What one does on each step, to read and to search. */
export function HelpPage() {
  const [text, setText] = useState('');
  const pages = foundHelp(text);
  return (
    <div className="flex min-h-full flex-col">
      <header className="flex h-[42px] shrink-0 items-center gap-3 border-b border-rule bg-bar px-3.5">
        <Link to="/" aria-label="Keen Ridge, back to the wall" className="flex items-center gap-2.5">
          <Logo />
          <span className="font-semibold">Keen Ridge</span>
        </Link>
        <span className="text-ink-2">Help</span>
        <span className="flex-1" />
        <label className="flex h-[26px] w-72 items-center gap-1.5 rounded-[3px] border border-rule bg-raised px-2 focus-within:outline-2 focus-within:outline-select">
          <Search size={13} aria-hidden="true" className="text-ink-2" />
          <input
            aria-label="Find in the help"
            placeholder="Find in the help"
            className="h-full w-full min-w-0 bg-transparent outline-none"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        </label>
      </header>
      <main className="mx-auto w-full max-w-[760px] flex-1 px-6 pb-16">
        <h1 className="sr-only">Help</h1>
        {pages.length === 0 && (
          <p className="mt-10 text-ink-2">Nothing in the help has all of these words.</p>
        )}
        {pages.map(({ title, sections }) => (
          <section key={title} aria-label={title} className="mt-9">
            <h2 className="border-b border-rule pb-1 text-[17px] font-semibold">{title}</h2>
            {sections.map(({ heading, text: words }) => (
              <div key={heading} className="mt-4">
                <h3 className="font-semibold">{heading}</h3>
                <p className="mt-1 max-w-[66ch] text-[14px] leading-relaxed">{words}</p>
              </div>
            ))}
          </section>
        ))}
      </main>
    </div>
  );
}
