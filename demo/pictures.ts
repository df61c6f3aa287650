/** Pictures of the demo's goods, drawn as SVG: one drawing a kind of thing, in the colour asked for. */

const size = 480;

/** Lighter (towards white, above 0) or darker (towards black, below 0) by a share. */
function tone(colour: string, share: number): string {
  const part = (at: number) => parseInt(colour.slice(at, at + 2), 16);
  const mixed = [1, 3, 5].map((at) => Math.round(part(at) + ((share > 0 ? 255 : 0) - part(at)) * Math.abs(share)));
  return `#${mixed.map((one) => one.toString(16).padStart(2, '0')).join('')}`;
}

function coil(colour: string, strand: number): string {
  const rings = [190, 164, 138, 112].map((radius, at) => {
    const dark = tone(colour, -0.28);
    return `<circle cx="240" cy="240" r="${radius}" fill="none" stroke="${at % 2 ? colour : tone(colour, 0.12)}" stroke-width="27"/>
<circle cx="240" cy="240" r="${radius}" fill="none" stroke="${dark}" stroke-width="24" stroke-dasharray="3 ${strand}" transform="rotate(${at * 7} 240 240)" opacity=".55"/>
<circle cx="240" cy="240" r="${radius + 12}" fill="none" stroke="${dark}" stroke-width="2" opacity=".6"/>`;
  });
  return `${rings.join('\n')}<path d="M51 262c6 76 46 138 112 176" fill="none" stroke="${tone(colour, 0.12)}" stroke-width="24" stroke-linecap="round"/><path d="M150 418l26 38" stroke="${tone(colour, -0.45)}" stroke-width="9" stroke-linecap="round"/>`;
}

function hank(colour: string): string {
  const loops = [-60, -36, -12, 12, 36, 60].map(
    (x, at) =>
      `<ellipse cx="${240 + x}" cy="240" rx="56" ry="170" fill="none" stroke="${tone(colour, at % 2 ? -0.14 : 0.1)}" stroke-width="13"/>`,
  );
  return `${loops.join('')}<rect x="120" y="206" width="240" height="62" rx="20" fill="${colour}"/><path d="M130 222h220M130 238h220M130 254h220" stroke="${tone(colour, -0.3)}" stroke-width="4"/>`;
}

const spool = (
  colour: string,
) => `<rect x="130" y="96" width="220" height="34" rx="10" fill="#a9835a"/><rect x="130" y="350" width="220" height="34" rx="10" fill="#8d6a45"/>
<rect x="158" y="130" width="164" height="220" fill="${colour}"/>${Array.from({ length: 15 }, (_, at) => `<path d="M158 ${138 + at * 14}l164 6" stroke="${tone(colour, -0.25)}" stroke-width="3"/>`).join('')}
<path d="M322 330c50 20 60 60 30 90" fill="none" stroke="${colour}" stroke-width="7" stroke-linecap="round"/>`;

const cleat = (
  colour: string,
) => `<path d="M70 196c70-34 130-24 170-24s100-10 170 24c12 8 6 30-10 30-50-8-80-2-96 20l10 66H166l10-66c-16-22-46-28-96-20-16 0-22-22-10-30z" fill="${colour}"/>
<path d="M76 204c70-28 124-20 164-20s94-8 164 20" fill="none" stroke="${tone(colour, 0.35)}" stroke-width="7" stroke-linecap="round"/>
<rect x="140" y="310" width="200" height="30" rx="8" fill="${tone(colour, -0.25)}"/><circle cx="176" cy="325" r="9" fill="${tone(colour, 0.4)}"/><circle cx="304" cy="325" r="9" fill="${tone(colour, 0.4)}"/>`;

const jam = (colour: string) => `<rect x="90" y="300" width="300" height="46" rx="14" fill="${tone(colour, -0.2)}"/>
<path d="M130 300c-14-70 20-130 80-140l16 24-22 20 26 22-24 22 24 22-16 30z" fill="${colour}"/><path d="M350 300c14-70-20-130-80-140l-16 24 22 20-26 22 24 22-24 22 16 30z" fill="${tone(colour, 0.12)}"/>
<circle cx="164" cy="262" r="15" fill="${tone(colour, -0.4)}"/><circle cx="316" cy="262" r="15" fill="${tone(colour, -0.4)}"/>`;

const shackle = (
  colour: string,
  bow: boolean,
) => `<path d="${bow ? 'M176 340V300C90 230 120 96 240 96s150 134 64 204v40' : 'M170 340V210c0-150 140-150 140 0v130'}" fill="none" stroke="${colour}" stroke-width="40" stroke-linecap="round"/>
<path d="${bow ? 'M170 296C96 226 130 104 236 96' : 'M162 330V210c0-80 40-116 78-112'}" fill="none" stroke="${tone(colour, 0.4)}" stroke-width="7" stroke-linecap="round"/>
<rect x="112" y="328" width="256" height="40" rx="18" fill="${tone(colour, -0.18)}"/><circle cx="388" cy="348" r="30" fill="none" stroke="${tone(colour, -0.18)}" stroke-width="16"/>`;

const oarlock = (colour: string) =>
  `<path d="M140 110c-10 150 40 190 100 190s110-40 100-190" fill="none" stroke="${colour}" stroke-width="38" stroke-linecap="round"/><rect x="218" y="296" width="44" height="110" rx="12" fill="${tone(colour, -0.15)}"/><rect x="170" y="300" width="140" height="24" rx="10" fill="${tone(colour, -0.25)}"/><path d="M130 118c-8 110 20 160 60 178" fill="none" stroke="${tone(colour, 0.4)}" stroke-width="6" stroke-linecap="round"/>`;

const lamp = (
  colour: string,
) => `<path d="M170 130c0-70 140-70 140 0" fill="none" stroke="#5a4a3a" stroke-width="10"/><path d="M180 130h120l24 44H156z" fill="${colour}"/>
<rect x="164" y="174" width="152" height="160" rx="26" fill="#f7ecd0" stroke="${tone(colour, -0.2)}" stroke-width="8"/><path d="M240 206c36 40 30 96 0 96s-36-56 0-96z" fill="#f0a93b"/><path d="M240 246c16 20 14 50 0 50s-16-30 0-50z" fill="#fff1c4"/>
<path d="M196 174v160M284 174v160" stroke="${tone(colour, -0.2)}" stroke-width="6"/><rect x="148" y="334" width="184" height="56" rx="12" fill="${colour}"/><rect x="148" y="350" width="184" height="8" fill="${tone(colour, 0.35)}"/>`;

const tin = (
  colour: string,
) => `<rect x="130" y="120" width="220" height="260" rx="12" fill="#b9b2a4"/><rect x="130" y="170" width="220" height="160" fill="${colour}"/><ellipse cx="240" cy="122" rx="110" ry="30" fill="#d8d2c6"/><ellipse cx="240" cy="122" rx="84" ry="20" fill="#a79f90"/>
<path d="M170 250c24-20 46-20 70 0s46 20 70 0" fill="none" stroke="#fff" stroke-width="9" opacity=".9"/><path d="M170 280c24-20 46-20 70 0s46 20 70 0" fill="none" stroke="#fff" stroke-width="9" opacity=".55"/><path d="M150 130v244" stroke="#fff" stroke-width="8" opacity=".25"/>`;

const bucket = (colour: string) =>
  `<path d="M140 170c0-110 200-110 200 0" fill="none" stroke="#c8b48a" stroke-width="13"/><path d="M120 170h240l-30 220H150z" fill="${colour}"/><ellipse cx="240" cy="172" rx="120" ry="30" fill="${tone(colour, -0.3)}"/><path d="M136 290h208" stroke="${tone(colour, -0.25)}" stroke-width="5" stroke-dasharray="12 8"/><path d="M146 362h188" stroke="${tone(colour, -0.25)}" stroke-width="5" stroke-dasharray="12 8"/>`;

const cover = (colour: string) =>
  `<path d="M60 230c90-70 270-90 370-20l-10 70c-110 60-250 60-350 10z" fill="${colour}"/><path d="M60 230c90-70 270-90 370-20" fill="none" stroke="${tone(colour, 0.3)}" stroke-width="8"/>${[110, 190, 270, 350].map((x) => `<path d="M${x} 190l-6 120" stroke="${tone(colour, -0.35)}" stroke-width="7"/>`).join('')}`;

const flag = (colour: string) =>
  `<rect x="104" y="70" width="14" height="350" rx="6" fill="#8d6a45"/><circle cx="111" cy="66" r="12" fill="#d9b25c"/><path d="M120 96c90-34 150 34 258 0v170c-108 34-168-34-258 0z" fill="${colour}"/><path d="M120 150c90-34 150 34 258 0" fill="none" stroke="${tone(colour, -0.18)}" stroke-width="6" opacity=".6"/>`;

const book = (
  colour: string,
) => `<path d="M120 90h220a20 20 0 0 1 20 20v280H140a20 20 0 0 1-20-20z" fill="${colour}"/><path d="M120 370a20 20 0 0 1 20-20h220v40H140a20 20 0 0 1-20-20z" fill="#f6f0e2"/><path d="M150 90v256" stroke="${tone(colour, -0.3)}" stroke-width="6"/>
<path d="M200 200c0-46 92-46 92 0s-92 46-92 92 92 46 92 0" fill="none" stroke="${tone(colour, 0.65)}" stroke-width="13" stroke-linecap="round"/>`;

const kit = (colour: string) =>
  `<path d="M90 180h300v180a20 20 0 0 1-20 20H110a20 20 0 0 1-20-20z" fill="${colour}"/><path d="M90 180l30-60h240l30 60z" fill="${tone(colour, 0.2)}"/><path d="M150 220l60 120M180 214l60 130" stroke="#d9c7a0" stroke-width="14" stroke-linecap="round"/><circle cx="310" cy="280" r="52" fill="none" stroke="#e9dcc0" stroke-width="15"/><circle cx="310" cy="280" r="26" fill="none" stroke="#e9dcc0" stroke-width="12"/>`;

const block = (
  colour: string,
) => `<path d="M240 40v70" stroke="#c8b48a" stroke-width="20" stroke-linecap="round"/><path d="M160 110h160c50 70 50 190 0 260H160c-50-70-50-190 0-260z" fill="${colour}"/><path d="M186 110h108c30 70 30 190 0 260H186c-30-70-30-190 0-260z" fill="${tone(colour, -0.25)}"/>
<circle cx="240" cy="240" r="72" fill="#b58a45"/><circle cx="240" cy="240" r="52" fill="none" stroke="${tone('#b58a45', -0.35)}" stroke-width="10"/><circle cx="240" cy="240" r="14" fill="#5a4a3a"/><path d="M168 240c0 90-60 130-60 200M312 240c0 90 60 130 60 200" fill="none" stroke="#d3b98a" stroke-width="16"/>`;

const smock = (
  colour: string,
) => `<path d="M170 90c30 30 110 30 140 0l100 60-44 84-36-20v200H150V214l-36 20-44-84z" fill="${colour}"/><path d="M196 96c20 26 68 26 88 0l-14 78h-60z" fill="${tone(colour, -0.3)}"/>
<rect x="180" y="290" width="120" height="92" rx="8" fill="none" stroke="${tone(colour, 0.3)}" stroke-width="6" stroke-dasharray="10 6"/><path d="M180 318h120" stroke="${tone(colour, 0.3)}" stroke-width="5"/><path d="M150 396h180" stroke="${tone(colour, -0.25)}" stroke-width="8"/>`;

const bag = (
  colour: string,
) => `<path d="M180 120c0-80 120-80 120 0" fill="none" stroke="#c8b48a" stroke-width="14"/><path d="M130 130h220l24 250c0 22-268 22-268 0z" fill="${colour}"/><ellipse cx="240" cy="130" rx="110" ry="26" fill="${tone(colour, -0.35)}"/>
<path d="M110 340c0 60 260 60 260 0l4 40c0 24-268 24-268 0z" fill="#8d6a45"/><path d="M136 190h208" stroke="${tone(colour, -0.22)}" stroke-width="6" stroke-dasharray="14 9"/>${[160, 200, 240, 280, 320].map((x) => `<circle cx="${x}" cy="152" r="8" fill="#d9c7a0"/>`).join('')}`;

const cushion = (colour: string) =>
  `<path d="M90 190c60-30 240-30 300 0 24 40 24 120 0 160-60 26-240 26-300 0-24-40-24-120 0-160z" fill="${colour}"/><path d="M90 190c60 26 240 26 300 0" fill="none" stroke="${tone(colour, 0.3)}" stroke-width="7"/><path d="M78 300c70 30 254 30 324 0" fill="none" stroke="${tone(colour, -0.3)}" stroke-width="7"/><circle cx="190" cy="262" r="9" fill="${tone(colour, -0.4)}"/><circle cx="290" cy="262" r="9" fill="${tone(colour, -0.4)}"/>`;

const pole = (colour: string) =>
  `<path d="M96 400L350 118" stroke="${colour}" stroke-width="30" stroke-linecap="round"/><path d="M104 384L340 122" stroke="${tone(colour, 0.35)}" stroke-width="6" stroke-linecap="round"/><path d="M330 140l62-68M362 106c40 10 46 46 22 70" fill="none" stroke="#b58a45" stroke-width="22" stroke-linecap="round"/><path d="M316 128l30 30" stroke="${tone(colour, -0.4)}" stroke-width="12"/>`;

const map = (
  colour: string,
) => `<path d="M90 110l100-30 100 30 100-30v290l-100 30-100-30-100 30z" fill="#f6f0e2"/><path d="M190 80v290M290 110v290" stroke="#d8cdb6" stroke-width="4"/><path d="M90 300c60-60 90 0 140-50s60-90 160-60v180l-100 30-100-30-100 30z" fill="${colour}" opacity=".75"/>
<path d="M140 170l60 40 40-30 80 60" fill="none" stroke="#b3261e" stroke-width="5" stroke-dasharray="12 9"/><circle cx="330" cy="250" r="10" fill="#b3261e"/><path d="M120 130h40M140 110v40" stroke="#8d7d60" stroke-width="4"/>`;

const drawings = {
  coil: (colour: string) => coil(colour, 21),
  braid: (colour: string) => coil(colour, 9),
  hank,
  spool,
  cleat,
  jam,
  bow: (colour: string) => shackle(colour, true),
  dee: (colour: string) => shackle(colour, false),
  oarlock,
  lamp,
  tin,
  bucket,
  cover,
  flag,
  book,
  kit,
  block,
  smock,
  bag,
  cushion,
  pole,
  map,
};

export type Drawing = keyof typeof drawings;

/** One picture as SVG, 480 by 480. `view` 1 shows the thing closer, on another ground. */
export function draw(kind: Drawing, colour: string, view = 0): string {
  const ground = ['#f2ede3', '#e6ecec'][view % 2] as string;
  const placed =
    view % 2 ? `<g transform="translate(-150 -96) scale(1.5)">${drawings[kind](colour)}</g>` : drawings[kind](colour);
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${size} ${size}" width="${size}" height="${size}"><rect width="${size}" height="${size}" fill="${ground}"/>${placed}</svg>\n`;
}
