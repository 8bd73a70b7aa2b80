import { Button, type ButtonProps } from "@mui/material";
import { useRef } from "react";

interface Props extends Omit<ButtonProps, "onClick"> {
  /** What the field that takes the file is called. */
  name: string;
  /** The kinds of file that are taken, as an input's accept. */
  accept: string;
  onFile: (file: File) => void;
}

/** A button that lets a file be chosen. The same file can be chosen again. */
export function FileButton({ name, accept, onFile, children, ...button }: Props) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button {...button} onClick={() => input.current?.click()}>
        {children}
      </Button>
      <input
        ref={input}
        type="file"
        accept={accept}
        aria-label={name}
        hidden
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = "";
          if (file) onFile(file);
        }}
      />
    </>
  );
}
