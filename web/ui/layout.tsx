import { Moon, Sun } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import { Link, NavLink, Outlet, useNavigate } from 'react-router';
import { useActs } from './acts.ts';
import { Button } from './button.tsx';
import { setDark, useIsDark } from './theme.ts';
import { useKey } from './use-key.ts';

/** Loaded when it is first asked for. */
const Palette = lazy(() => import('./palette.tsx'));

/** `short` stands where there is little room. */
const views: readonly { readonly to: string; readonly title: string; readonly short?: string }[] = [
  { to: '/', title: 'Jobs' },
  { to: '/shelf', title: 'Shelf' },
  { to: '/targets', title: 'Targets' },
  { to: '/try', title: 'Try-out' },
  { to: '/check', title: 'Check a file', short: 'Check' },
];

/** The frame of every view. */
export function Layout() {
  const isDark = useIsDark();
  const navigate = useNavigate();
  const [isAsking, setAsking] = useState(false);
  useKey('mod+k', () => setAsking(true), { preventDefault: true, isEverywhere: true });
  useActs([
    ...views.map(({ to, title }) => ({ label: `Go to ${title}`, go: () => void navigate(to) })),
    { label: isDark ? 'Use the light theme' : 'Use the dark theme', go: () => setDark(!isDark) },
  ]);
  return (
    <div className="flex min-h-dvh flex-col">
      <a href="#main" className="sr-only focus:not-sr-only focus:absolute focus:m-2 focus:bg-sheet focus:p-2">
        Skip to the content
      </a>
      <header className="flex items-baseline gap-4 border-b border-ink px-4 py-2 sm:gap-6 sm:px-6 print:hidden">
        <Link to="/" className="text-lg font-bold tracking-tight">
          Tambur
        </Link>
        <nav aria-label="Views" className="flex gap-3 whitespace-nowrap max-sm:text-sm sm:gap-5">
          {views.map(({ to, title, short }) => (
            <NavLink
              key={to}
              to={to}
              end={to === '/'}
              className="py-1 aria-[current=page]:border-b-2 aria-[current=page]:border-pine"
            >
              {short ? (
                <>
                  <span className="sm:hidden" aria-hidden>
                    {short}
                  </span>
                  <span className="max-sm:sr-only">{title}</span>
                </>
              ) : (
                title
              )}
            </NavLink>
          ))}
        </nav>
        <Button
          kind="quiet"
          onClick={() => setDark(!isDark)}
          aria-label={isDark ? 'Use the light theme' : 'Use the dark theme'}
          className="ml-auto self-center"
        >
          {isDark ? <Sun className="size-4" aria-hidden /> : <Moon className="size-4" aria-hidden />}
        </Button>
      </header>
      {isAsking && (
        <Suspense fallback={null}>
          <Palette onClose={() => setAsking(false)} />
        </Suspense>
      )}
      <main id="main" className="relative flex min-h-0 flex-1 flex-col">
        <Outlet />
      </main>
    </div>
  );
}
