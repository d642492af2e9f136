import { useEffect, useRef, useState } from "react";
import { tableKeys } from "./QuantityField";
import { enterByMouse, selectAll } from "./selectAll";

interface Props {
  label: string;
  value: string;
  onCommit: (value: string) => void;
  disabled?: boolean;
  boxed?: boolean;
  required?: boolean;
  placeholder?: string;
  className?: string;
}

/** One line of text, edited in place; saved when left. */
export function TextField({ label, value, onCommit, disabled, boxed, required, placeholder, className = "" }: Props) {
  const [text, setText] = useState(value);
  const [error, setError] = useState(false);
  /** What was typed since the field was entered stays, whatever changes beneath it. */
  const typed = useRef(false);
  const reverting = useRef(false);
  useEffect(() => {
    if (!typed.current) setText(value);
  }, [value]);
  return (
    <span className={`relative inline-block w-full ${className}`}>
      <input
        className={boxed ? "box" : "cell"}
        aria-label={label}
        aria-invalid={error}
        disabled={disabled}
        placeholder={placeholder}
        value={text}
        onMouseDown={enterByMouse}
        onFocus={(e) => selectAll(e.currentTarget)}
        onChange={(e) => {
          typed.current = true;
          setText(e.target.value);
        }}
        onBlur={() => {
          typed.current = false;
          if (reverting.current) {
            reverting.current = false;
            setText(value);
            setError(false);
            return;
          }
          const bad = required === true && text.trim() === "";
          setError(bad);
          if (!bad && text !== value) onCommit(text);
        }}
        onKeyDown={(e) =>
          tableKeys(e, () => {
            reverting.current = true;
          })
        }
      />
      {error && (
        <span
          role="alert"
          className="absolute left-0 top-full z-20 border border-stop bg-sheet px-2 py-1 text-[11px] text-stop"
        >
          A name is needed.
        </span>
      )}
    </span>
  );
}
