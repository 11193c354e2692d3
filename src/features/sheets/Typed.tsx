import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';

/** A field that counts once it is left, or with Enter; what was typed stays until something else is so. */
export function Typed({
  id,
  label,
  value,
  hint,
  error,
  disabled,
  onTyped,
}: {
  id: string;
  label: string;
  value: string;
  hint?: string;
  error: string | undefined;
  disabled: boolean;
  onTyped: (text: string) => void;
}) {
  return (
    <div className="col-6">
      <FormLabel htmlFor={`sheet-${id}`}>{label}</FormLabel>
      <FormControl
        key={value}
        id={`sheet-${id}`}
        className="mono"
        autoComplete="off"
        disabled={disabled}
        defaultValue={value}
        placeholder={hint}
        aria-invalid={Boolean(error)}
        aria-describedby={error ? `sheet-${id}-say` : undefined}
        onBlur={(event) => onTyped(event.target.value)}
        onKeyDown={(event) => {
          if (event.key !== 'Enter') return;
          event.preventDefault();
          event.currentTarget.blur();
        }}
      />
      {error && (
        <span id={`sheet-${id}-say`} className="field-error">
          {error}
        </span>
      )}
    </div>
  );
}
