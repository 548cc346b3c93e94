import { Check, ChevronDown } from 'lucide-react';
import { useRef } from 'react';
import { Select as Radix } from 'radix-ui';
import { getNonce } from 'get-nonce';
import { INPUT } from './controls.tsx';

export interface SelectOption<Value> {
  value: Value;
  words: string;
  /** A field opens with it, which takes the focus; else what was pressed has it again. */
  leads?: true;
}

const LOOKS = {
  field: `${INPUT} justify-between gap-2 text-left max-sm:min-h-11`,
  /** What a form need not say, in little room. */
  chip: 'min-h-7 gap-1 rounded-full border border-edge bg-sheet px-3 py-0.5 text-ink hover:border-ink-2 max-sm:min-h-11',
  /** A part of a sentence that can be changed. */
  word: 'min-h-6 rounded-sm leading-5 font-semibold text-gentian hover:bg-gentian-wash max-sm:min-h-11',
};

/**
 * One of several values. Without a label beside it, `question` stands in it before the value, so that
 * a bare value never leaves one guessing.
 */
export function Select<Value>({
  value,
  options,
  onChange,
  question,
  look = 'field',
  className,
  disabled = false,
  ...described
}: {
  value: Value;
  options: readonly SelectOption<Value>[];
  onChange: (value: Value) => void;
  /** What the value answers. In a sentence it is only said, since the sentence says it. */
  question?: string;
  look?: keyof typeof LOOKS;
  className?: string;
  disabled?: boolean;
  id?: string;
  'aria-describedby'?: string;
}) {
  const isLeading = useRef(false);
  const trigger = useRef<HTMLButtonElement>(null);
  const at = options.findIndex((one) => one.value === value);
  return (
    <Radix.Root
      value={at < 0 ? '' : String(at)}
      onValueChange={(next) => {
        const chosen = options[Number(next)]!;
        isLeading.current = chosen.leads === true;
        onChange(chosen.value);
      }}
      disabled={disabled}
    >
      <Radix.Trigger
        ref={trigger}
        aria-label={question}
        className={`inline-flex items-center disabled:opacity-50 ${LOOKS[look]} ${className ?? (look === 'field' ? 'w-full' : '')}`}
        {...described}
      >
        <span
          className={`min-w-0 truncate ${look === 'word' ? 'border-b border-dotted border-gentian' : ''}`}
        >
          {question && look !== 'word' && <span className="text-ink-2">{question}: </span>}
          <Radix.Value>{options[at]?.words ?? '–'}</Radix.Value>
        </span>
        {look !== 'word' && (
          <Radix.Icon>
            <ChevronDown size={14} aria-hidden="true" />
          </Radix.Icon>
        )}
      </Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          position="popper"
          sideOffset={4}
          collisionPadding={8}
          onCloseAutoFocus={(event) => {
            if (!isLeading.current) return;
            isLeading.current = false;
            event.preventDefault();
            inputAfter(trigger.current!)?.focus();
          }}
          className="z-50 max-h-(--radix-select-content-available-height) min-w-(--radix-select-trigger-width) overflow-hidden rounded-sm border border-edge bg-sheet shadow-lg"
        >
          <Radix.Viewport nonce={getNonce()} className="max-h-80 p-1">
            {options.map((option, k) => (
              <Radix.Item
                key={k}
                value={String(k)}
                className="flex cursor-pointer items-center justify-between gap-4 rounded-sm px-2.5 py-1.5 outline-none select-none data-[highlighted]:bg-gentian-wash data-[state=checked]:font-semibold max-sm:min-h-11"
              >
                <Radix.ItemText>{option.words}</Radix.ItemText>
                <Radix.ItemIndicator>
                  <Check size={14} aria-hidden="true" />
                </Radix.ItemIndicator>
              </Radix.Item>
            ))}
          </Radix.Viewport>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

/** The field that a choice opened: the next one in the page. */
const inputAfter = (element: HTMLElement): HTMLInputElement | undefined =>
  [...document.querySelectorAll<HTMLInputElement>('input:not([type="hidden"])')].find(
    (one) => element.compareDocumentPosition(one) & Node.DOCUMENT_POSITION_FOLLOWING,
  );
