import { cookieName } from '@/server/http';

interface ConfigSetup {
  root: string;
  host: string;
  node: string | null;
  port: number;
  /** Addresses that moved, with where they lead now. */
  moved: readonly { from: string; to: string }[];
  /** That every page carries, each film's player, and each piece that scripts ask for. */
  headers: Record<string, string>;
  ofPlayers: Record<string, string>;
  ofPieces: Record<string, string>;
  locales: readonly string[];
}

/** As a text of nginx's, in quotes. */
const quoted = (text: string): string => `"${text.replace(/[\\"]/g, '\\$&').replaceAll('$', '')}"`;

/** nginx for a site of files, as a file of `/etc/nginx/conf.d`. */
export function siteConfig({
  root,
  host,
  node,
  port,
  moved,
  headers,
  ofPlayers,
  ofPieces,
  locales,
}: ConfigSetup): string {
  const cart = cookieName('cart', false);
  const written = (of: Record<string, string>) =>
    Object.entries(of).map(([name, value]) => `add_header ${name} ${quoted(value)} always;`);
  const all = written(headers);
  const ofPages = [
    ...all,
    'add_header Cache-Control "public, max-age=0, s-maxage=10" always;',
    'add_header Content-Language $last_language always;',
  ];
  const [first = '', ...others] = locales;
  const rest = node
    ? `proxy_pass http://${node};
        proxy_set_header Host $http_host;
        proxy_set_header X-Forwarded-For $proxy_add_x_forwarded_for;
        proxy_set_header X-Forwarded-Proto $scheme;`
    : `try_files $last_plain =404;`;
  return `# A shop as files: written by last site. Goes into the http block, as in /etc/nginx/conf.d/.
# A query is part of a file's name; what someone has in the cart is no file's to show.
map "$cookie_${cart} $args" $last_query {
    "~^ $" "";
    "~^ (?<last_args>.+)$" ",$last_args";
    default ",cart";
}
map $uri $last_plain {
    "~/$" "\${uri}index.html";
    default "$uri.html";
}
map $uri $last_name {
    "~/$" "\${uri}index";
    default $uri;
}
map $uri $last_language {
${others.map((locale) => `    "~^/${locale}(/|$)" ${quoted(locale)};`).join('\n')}
    default ${quoted(first)};
}
map $uri $last_moved {
    default "";
${moved.map(({ from, to }) => `    ${quoted(from)} ${quoted(to)};`).join('\n')}
}

server {
    listen ${port};
    server_name ${host};
    root ${root};
    charset utf-8;
    absolute_redirect off;
    gzip_static on;
    error_page 404 /not-found.html;

    location ~ ^(?<last_stem>/(?:assets|media)/.+)\\.(?<last_ending>\\w+)$ {
        ${all.join('\n        ')}
        add_header Cache-Control $last_lifetime always;
        try_files "$last_stem,$args.$last_ending" $last_unversioned =404;
    }

    location = /not-found.html {
        internal;
        ${all.join('\n        ')}
    }
    location /player/ {
        ${written(ofPlayers).join('\n        ')}
        default_type text/html;
        try_files $uri.html =404;
    }
    location ~ ^(?:/[\\w-]+)?/fragment/ {
        ${written(ofPieces).join('\n        ')}
        add_header Cache-Control "no-cache" always;
        default_type text/html;
        try_files "$uri,$args.html" @rest;
    }
    location = /robots.txt {}
    location ~ ^/sitemap(?:-\\d+)?\\.xml$ {}

    location / {
        if ($last_moved) { return 301 $last_moved$is_args$args; }
        ${ofPages.join('\n        ')}
        default_type text/html;
        try_files "$last_name$last_query.html" @rest;
    }

    location @rest {
        ${node ? '' : `${ofPages.join('\n        ')}\n        `}${rest}
    }
}

# An address with a version is that content or nothing.
map $args $last_unversioned {
    "~(^|&)v=" "/-";
    default $uri;
}
map $args $last_lifetime {
    "~(^|&)v=" "public, max-age=31536000, immutable";
    default "no-cache";
}
`;
}
