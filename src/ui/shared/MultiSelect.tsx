'use client';
import { Select, type SelectProps } from 'antd';

/** A list that several are chosen from. Enter takes what is highlighted; Tab goes on, and takes nothing along. */
export function MultiSelect({ mode = 'multiple', ...rest }: SelectProps<string[]>) {
  return (
    <span
      className="multi-select"
      onKeyDownCapture={(event) => {
        if (event.key === 'Tab') event.stopPropagation();
      }}
    >
      <Select mode={mode} {...rest} />
    </span>
  );
}
