import { writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** Kinds of files that nginx puts aside. */
const aside = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi'];

/** For tests: writes a configuration of nginx that needs no rights, with this in its http block; gives what /usr/sbin/nginx is to be started with. */
export function nginxArgs(work: string, http: string): string[] {
  const file = join(work, 'nginx.conf');
  const temporary = aside.map((of) => `${of}_temp_path ${work}/${of};`).join(' ');
  writeFileSync(
    file,
    `daemon off; master_process off; pid ${work}/pid; error_log stderr crit; events {}\nhttp { access_log off; ${temporary}\n${http}}\n`,
  );
  return ['-p', work, '-c', file];
}
