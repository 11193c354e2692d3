import sharp, { type Sharp } from 'sharp';

/** The ferry company's badge as somebody saves it: a hull with two portholes and a funnel on white, 900 × 700 pixels. */
export const badge = (): Sharp =>
  sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="900" height="700"><rect width="900" height="700" fill="#fff"/>
<rect x="300" y="140" width="70" height="130" fill="#20303c"/><path d="M120 430L780 430Q720 590 600 600L300 600Q170 590 120 430Z" fill="#24507a"/>
<path d="M250 431L250 260L560 260L640 431Z" fill="#d9573b"/><circle cx="330" cy="340" r="36" fill="#fff"/><circle cx="450" cy="340" r="36" fill="#fff"/></svg>`,
    ),
  );
