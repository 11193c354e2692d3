'use client';

import ButtonGroup from 'react-bootstrap/ButtonGroup';
import Button from 'react-bootstrap/Button';
import FormControl from 'react-bootstrap/FormControl';
import { Moon, Sun } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useState, useSyncExternalStore } from 'react';

import { remember, soundInitials } from './remember';

const DARK = '(prefers-color-scheme: dark)';
const systemIsDark = (): boolean => matchMedia(DARK).matches;
function watchSystem(changed: () => void): () => void {
  const media = matchMedia(DARK);
  media.addEventListener('change', changed);
  return () => media.removeEventListener('change', changed);
}

/** Units, initials and the bench's light: kept by this browser. */
export function TopControls({
  unit,
  theme,
  who,
}: {
  unit: 'mm' | 'in';
  /** Null: as the system has it. */
  theme: 'light' | 'dark' | null;
  who: string;
}) {
  const router = useRouter();
  const [initials, setInitials] = useState(who);
  // On a phone they are behind one button.
  const [shown, setShown] = useState(false);
  const set = (name: 'who' | 'bench' | 'unit', value: string): void => {
    remember(name, value);
    router.refresh();
  };
  const system = useSyncExternalStore(watchSystem, systemIsDark, () => false);
  const dark = theme === null ? system : theme === 'dark';
  const darkWords = dark ? 'Light bench' : 'Dark bench, for dim rooms';
  const choose = (): void => {
    const next = dark ? 'light' : 'dark';
    document.documentElement.dataset.bsTheme = next;
    set('bench', next);
  };
  const sound = soundInitials(initials) || initials.trim() === '';
  return (
    <div className={shown ? 'end end-shown' : 'end'}>
      <Button
        variant="plain"
        className="end-toggle"
        aria-expanded={shown}
        aria-label={`${initials || 'Nobody yet'}: who, light and units`}
        onClick={() => setShown(!shown)}
      >
        {initials || '?'}
      </Button>
      <div className="end-controls">
        <div className="who">
          <label htmlFor="who" className="soft">
            initials
          </label>
          <FormControl
            id="who"
            value={initials}
            maxLength={4}
            autoComplete="off"
            aria-invalid={!sound}
            title={
              sound ? 'Who is at the machine: written into the log' : 'Up to four letters, for example KT'
            }
            onChange={(e) => setInitials(e.target.value)}
            onBlur={() => sound && set('who', initials.trim().toUpperCase())}
            onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
          />
        </div>
        <Button variant="plain" className="px-2" onClick={choose} aria-label={darkWords} title={darkWords}>
          {dark ? <Sun size={20} aria-hidden /> : <Moon size={20} aria-hidden />}
        </Button>
        <ButtonGroup aria-label="Units">
          {(['mm', 'in'] as const).map((name) => (
            <Button
              key={name}
              variant="plain"
              style={
                unit === name ? { background: 'var(--rp-stop-back)', color: 'var(--rp-stop)' } : undefined
              }
              aria-pressed={unit === name}
              onClick={() => set('unit', name)}
            >
              {name === 'mm' ? 'mm' : 'inch'}
            </Button>
          ))}
        </ButtonGroup>
      </div>
    </div>
  );
}
