/** A film of the demo, as an outside host's player would show it: an invented one, drawn and moved by the page itself. */
export function playerPage(id: string): string {
  const name = id.replace(/[^a-z0-9-]/gi, '').replaceAll('-', ' ') || 'film';
  return `<!DOCTYPE html>
<html lang="en"><head><meta charset="utf-8"><title>Film: ${name}</title>
<style>
html,body{margin:0;height:100%;background:#10202e;color:#f4efe4;font:16px/1.4 system-ui,sans-serif;overflow:hidden}
svg{position:absolute;inset:0;width:100%;height:100%}
.wave{animation:drift 7s linear infinite;animation-play-state:paused}.late{animation-duration:11s}
.boat{animation:rock 4s ease-in-out infinite;transform-origin:320px 235px;animation-play-state:paused}
:checked~svg *{animation-play-state:running}
@keyframes drift{to{transform:translateX(-160px)}}@keyframes rock{50%{transform:rotate(4deg) translateY(6px)}}
label{position:absolute;left:50%;top:50%;width:76px;height:76px;margin:-38px;border-radius:50%;background:#f4efe4;cursor:pointer;box-shadow:0 6px 30px rgb(0 0 0/.4)}
label::after{content:'';position:absolute;left:30px;top:22px;border:solid transparent;border-width:16px 0 16px 26px;border-left-color:#10202e}
:checked~label{top:auto;bottom:12px;left:50px;width:44px;height:44px}:checked~label::after{border:0;left:14px;top:13px;width:5px;height:18px;box-shadow:-1px 0 #10202e,10px 0 #10202e;background:#10202e}
input{position:absolute;opacity:0}input:focus-visible~label{outline:3px solid #e8a33d;outline-offset:3px}
p{position:absolute;right:18px;bottom:14px;margin:0;font-size:14px;text-transform:capitalize}
</style></head><body>
<input type="checkbox" id="play" aria-label="Play"><svg viewBox="0 0 640 360" preserveAspectRatio="xMidYMid slice" aria-hidden="true">
<rect width="640" height="360" fill="#27506b"/><circle cx="500" cy="84" r="36" fill="#f0c36a"/>
<g class="boat"><path d="M230 236h190l-30 46H262z" fill="#8d5a2b"/><path d="M318 232V92l92 130z" fill="#f4efe4"/><path d="M312 232V112l-62 112z" fill="#d8c9a8"/></g>
<path class="wave" d="M0 270q40-22 80 0t80 0 80 0 80 0 80 0 80 0 80 0 80 0 80 0 80 0V360H0z" fill="#1c3d54"/>
<path class="wave late" d="M0 300q40-18 80 0t80 0 80 0 80 0 80 0 80 0 80 0 80 0 80 0 80 0V360H0z" fill="#10202e"/></svg>
<label for="play"></label><p>${name}</p></body></html>`;
}
