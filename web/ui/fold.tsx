import { Disclosure, DisclosureButton, DisclosurePanel } from '@headlessui/react';
import { ChevronRight } from 'lucide-react';
import type { ReactNode } from 'react';

interface Props {
  readonly title: ReactNode;
  /** At first. */
  readonly isOpen?: boolean;
  readonly onToggle?: (isOpen: boolean) => void;
  readonly className?: string;
  readonly children: ReactNode;
}

/** What is shown on demand, below the line that says what it is. */
export function Fold({ title, isOpen = false, onToggle, className = '', children }: Props) {
  return (
    <Disclosure as="div" defaultOpen={isOpen} className={className}>
      {({ open }) => (
        <>
          <DisclosureButton
            className="group inline-flex items-center gap-1 text-left text-sm text-graphite hover:text-ink"
            onClick={() => onToggle?.(!open)}
          >
            <ChevronRight className="size-3.5 shrink-0 group-data-open:rotate-90" aria-hidden />
            {title}
          </DisclosureButton>
          <DisclosurePanel>{children}</DisclosurePanel>
        </>
      )}
    </Disclosure>
  );
}
