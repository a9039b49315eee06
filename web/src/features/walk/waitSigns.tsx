import { addSigns } from '../../ui/Marks';

/** What rows wait for: drop for cure, leaf of a calendar, tray for the recorder, two heads, a plug; by the code of what is waited for. */
addSigns({
  cure: <path d="M12 3c4 5 6 8 6 11a6 6 0 0 1-12 0c0-3 2-6 6-11z" />,
  'wait.dark': <path d="M15 3a9.5 9.5 0 1 0 6 13A8 8 0 0 1 15 3z" />,
  'wait.day': <path d="M4 6h16v14H4zM4 10h16M8 3v5M16 3v5M8 14h3v3H8z" />,
  'wait.recorder': <path d="M3 13h18v7H3zM12 13V4M8 8l4-4 4 4M7 16.500h3" />,
  'presence.second-person': (
    <path d="M8 4a3 3 0 1 1 0 6 3 3 0 0 1 0-6zM16 6a2.500 2.500 0 1 1 0 5 2.500 2.500 0 0 1 0-5zM2.500 20c0-4 2.500-7 5.500-7s5.500 3 5.500 7M15 14c3.500 0 6 2 6 6" />
  ),
  'presence.permanent-power': <path d="M8 3v6M16 3v6M5 9h14v3a7 7 0 0 1-14 0zM12 19v3" />,
});
