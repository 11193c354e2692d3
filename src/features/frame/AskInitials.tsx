'use client';

import { useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';

import { remember, soundInitials } from '@/ui/remember';

import { asksInitials } from '@/features/forms/keeping';

/** Asks who is at the machine when the first thing is to be kept; what waits goes on with the answer. */
export function AskInitials() {
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState('');
  const [wrong, setWrong] = useState(false);
  const answer = useRef<(known: boolean) => void>(() => undefined);
  useEffect(
    () =>
      asksInitials(
        () =>
          new Promise((known) => {
            answer.current = known;
            setOpen(true);
          }),
      ),
    [],
  );
  const end = (known: boolean): void => {
    setOpen(false);
    answer.current(known);
  };
  const submit = (): void => {
    if (!soundInitials(typed)) return setWrong(true);
    remember('who', typed.trim().toUpperCase());
    end(true);
  };
  return (
    <Modal show={open} onHide={() => end(false)} aria-labelledby="who-asked" centered animation={false}>
      <Form
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          submit();
        }}
      >
        <Modal.Body>
          <h2 id="who-asked">Who is at the machine?</h2>
          <p>Your initials are written into the log with what you keep. This browser remembers them.</p>
          <Form.Label htmlFor="who-asked-field">Initials</Form.Label>
          <Form.Control
            id="who-asked-field"
            autoFocus
            value={typed}
            maxLength={4}
            autoComplete="off"
            isInvalid={wrong}
            aria-describedby="who-asked-say"
            onChange={(event) => {
              setTyped(event.target.value);
              setWrong(false);
            }}
          />
          <span id="who-asked-say" className={wrong ? 'field-error' : 'small-print'}>
            {wrong ? 'One to four letters, for example KT.' : 'For example KT.'}
          </span>
        </Modal.Body>
        <Modal.Footer>
          <Button type="button" variant="plain" onClick={() => end(false)}>
            Not now
          </Button>
          <Button type="submit" variant="main">
            Keep it
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
