import { useState } from 'react';

/** A text that others set and somebody types over: what is typed stands until what it was typed over changes. */
export function useTypedOver(given: string): [text: string, type: (text: string) => void] {
  const [typed, setTyped] = useState({ over: given, text: given });
  return [
    typed.over === given ? typed.text : given,
    (text: string) => setTyped({ over: given, text }),
  ];
}
