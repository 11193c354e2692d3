'use client';

import { Moon, Sun } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useState } from 'react';

import { remember, soundInitials } from './remember';

/** Units, initials and the bench's light: kept by this browser. */
export function TopControls({
  unit,
  theme,
  who,
}: {
  unit: 'mm' | 'in';
  theme: 'light' | 'dark';
  who: string;
}) {
  const router = useRouter();
  const [initials, setInitials] = useState(who);
  const set = (name: 'who' | 'bench' | 'unit', value: string): void => {
    remember(name, value);
    router.refresh();
  };
  const sound = soundInitials(initials) || initials.trim() === '';
  return (
    <div className="end">
      <div className="who">
        <label htmlFor="who" className="soft">
          initials
        </label>
        <input
          id="who"
          className="form-control"
          value={initials}
          maxLength={4}
          autoComplete="off"
          aria-invalid={!sound}
          title={sound ? 'Who is at the machine: written into the log' : 'Up to four letters, for example KT'}
          onChange={(e) => setInitials(e.target.value)}
          onBlur={() => sound && set('who', initials.trim().toUpperCase())}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        />
      </div>
      <button
        type="button"
        className="btn btn-plain px-2"
        onClick={() => set('bench', theme === 'dark' ? 'light' : 'dark')}
        aria-label={theme === 'dark' ? 'Light bench' : 'Dark bench, for dim rooms'}
        title={theme === 'dark' ? 'Light bench' : 'Dark bench, for dim rooms'}
      >
        {theme === 'dark' ? <Sun size={20} aria-hidden /> : <Moon size={20} aria-hidden />}
      </button>
      <div className="btn-group" role="group" aria-label="Units">
        {(['mm', 'in'] as const).map((name) => (
          <button
            key={name}
            type="button"
            className="btn btn-plain"
            style={unit === name ? { background: 'var(--rp-stop-back)', color: 'var(--rp-stop)' } : undefined}
            aria-pressed={unit === name}
            onClick={() => set('unit', name)}
          >
            {name === 'mm' ? 'mm' : 'inch'}
          </button>
        ))}
      </div>
    </div>
  );
}
