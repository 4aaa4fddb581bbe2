import type { ButtonHTMLAttributes, ReactNode } from 'react';

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  /** `main` for the one thing to do on a view, `plain` for the rest, `quiet` inside rows. */
  readonly kind?: 'main' | 'plain' | 'quiet' | 'danger';
  readonly children: ReactNode;
}

const classes = {
  main: 'bg-pine text-paper px-4 py-2 font-semibold hover:opacity-90',
  plain: 'border border-rule px-3 py-1.5 hover:border-ink hover:bg-sheet',
  quiet: 'px-1.5 py-1 text-graphite hover:text-ink hover:bg-hairline/60',
  danger: 'bg-brick text-paper px-4 py-2 font-semibold hover:opacity-90',
} as const;

export function Button({ kind = 'plain', className = '', type = 'button', ...rest }: Props) {
  return (
    <button
      type={type}
      className={`inline-flex min-h-6 items-center justify-center gap-1.5 whitespace-nowrap disabled:opacity-45 ${classes[kind]} ${className}`}
      {...rest}
    />
  );
}
