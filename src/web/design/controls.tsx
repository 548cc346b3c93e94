import { cloneElement, useId, type ComponentProps, type ReactElement, type ReactNode } from 'react';
import { Link } from 'react-router';
import { Hint } from './Hint.tsx';

type ButtonLook = 'act' | 'quiet' | 'plain' | 'danger';

const LOOKS: Record<ButtonLook, string> = {
  act: 'bg-gentian text-on-gentian px-4 py-2 hover:brightness-110',
  quiet: 'text-gentian px-2.5 py-1.5 hover:bg-gentian-wash',
  plain: 'border border-edge bg-sheet px-3 py-1.5 hover:border-ink-2',
  danger: 'border border-alpenglow text-alpenglow bg-sheet px-3 py-1.5 hover:bg-glow-wash',
};

/** A button; `act` is the one thing its place is for, the others step back. */
export function Button({
  look = 'plain',
  className = '',
  repeats = false,
  ...rest
}: ComponentProps<'button'> & {
  look?: ButtonLook;
  /** Whether it is pressed again and again, as what steps is: each press then counts. */
  repeats?: boolean;
}) {
  return (
    <button
      type="button"
      // A double click on it is one: what it does is done once.
      {...(!repeats && { 'data-once': '' })}
      className={`rounded-sm font-semibold max-sm:min-h-11 disabled:cursor-not-allowed disabled:opacity-50 ${LOOKS[look]} ${className}`}
      {...rest}
    />
  );
}

/** What leads to another view, among buttons and like one. */
export const LinkButton = ({ className = '', ...rest }: ComponentProps<typeof Link>) => (
  <Link
    className={`inline-flex items-center rounded-sm font-semibold max-sm:min-h-11 ${LOOKS.plain} ${className}`}
    {...rest}
  />
);

/** A button that shows a sign where its words would be too long; they are said all the same. */
export function IconButton({
  label,
  small = false,
  className = '',
  ...rest
}: ComponentProps<'button'> & { label: string; small?: boolean }) {
  return (
    <Hint words={label}>
      <button
        type="button"
        aria-label={label}
        className={`grid shrink-0 place-items-center rounded-full hover:bg-gentian-wash disabled:opacity-50 max-sm:size-11 ${small ? 'size-8' : 'size-9'} ${className}`}
        {...rest}
      />
    </Hint>
  );
}

/** A labelled control with its error or hint, tied together for screen readers. */
export function Field({
  label,
  error,
  hint,
  children,
  bare = false,
  className = '',
}: {
  label: string;
  /** Whether the label is only said, where the place says what it is for. */
  bare?: boolean;
  error?: string | undefined;
  hint?: string | undefined;
  children: ReactElement<{ id?: string; 'aria-describedby'?: string }>;
  className?: string;
}) {
  const id = useId();
  const remark = `${id}-remark`;
  return (
    <div className={className}>
      <label htmlFor={id} className={bare ? 'sr-only' : 'mb-1 block font-semibold'}>
        {label}
      </label>
      {cloneElement(children, { id, ...((error || hint) && { 'aria-describedby': remark }) })}
      {hint && !error && (
        <span id={remark} className="mt-1 block text-ink-2">
          {hint}
        </span>
      )}
      {error && (
        <span id={remark} role="alert" className="mt-1 block font-semibold text-alpenglow">
          {error}
        </span>
      )}
    </div>
  );
}

export const INPUT =
  'rounded-sm border border-edge bg-sheet px-2.5 py-1.5 text-ink max-sm:min-h-11 placeholder:text-ink-2 aria-[invalid=true]:border-alpenglow';

export function TextInput({ className = 'w-full', ...rest }: ComponentProps<'input'>) {
  return <input className={`${INPUT} ${className}`} {...rest} />;
}

export function TextArea({ className = 'w-full', ...rest }: ComponentProps<'textarea'>) {
  return <textarea className={`${INPUT} ${className}`} {...rest} />;
}

/** The heading of a part of a view, with a remark at its end. */
export function PartHeading({ children, remark }: { children: ReactNode; remark?: ReactNode }) {
  return (
    <div className="mb-2 flex items-baseline justify-between gap-3">
      <h2 className="text-[15px]">{children}</h2>
      {remark && <span className="text-xs font-medium text-ink-2">{remark}</span>}
    </div>
  );
}
