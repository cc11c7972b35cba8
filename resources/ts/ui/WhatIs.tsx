import { CircleHelp } from 'lucide-react';
import { Popover } from 'radix-ui';
import { GLOSSARY, said, type Word } from './glossary';

/** A small mark beside a title; behind it, what the words that first stand here mean. */
export function WhatIs({ about, words }: { about: string; words: readonly Word[] }) {
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label={`What the words mean: ${about}`}
        className="grid size-6 shrink-0 place-items-center rounded-full text-soft hover:bg-tint hover:text-accent"
      >
        <CircleHelp size={16} aria-hidden="true" />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          collisionPadding={8}
          className="sheet z-40 max-h-[70dvh] w-[26rem] max-w-[94vw] overflow-y-auto p-4 shadow-lg outline-none"
        >
          <dl className="flex flex-col gap-2.5 text-[0.95rem] leading-snug">
            {words.map((word) => (
              <div key={word}>
                <dt className="font-semibold first-letter:uppercase">{said(word)}</dt>
                <dd className="text-soft">{GLOSSARY[word]}</dd>
              </div>
            ))}
          </dl>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
