import { cookieName } from '@/server/http';

/** What stands in front of render nodes: it sends on what it was sent a moment ago, and asks another node where one does not answer. */
export interface FrontSetup {
  /** Of the nodes, at least one: `10.0.0.5:4180`. */
  nodes: string[];
  /** Names of the shop; the first is the one that it is known by. */
  names: string[];
  port: number;
  /** Where what was sent is kept. */
  cache: string;
  /** Nodes tell Varnish which groups of pages a change touches (`last serve --tell`): it keeps pages until then. */
  groups?: boolean;
  /** Certificate and key as PEM files; null: it speaks plain HTTP, as behind something that speaks HTTPS. */
  tls: { certificate: string; key: string } | null;
}

/** Servers that a configuration is written for. */
export const fronts = ['nginx', 'varnish'] as const;
export type Front = (typeof fronts)[number];

/** The configuration of a front server, whole. */
export const frontConfig = (front: Front, setup: FrontSetup): string =>
  front === 'nginx' ? nginx(setup) : varnish(setup);

const cart = cookieName('cart', false);

/**
 * nginx, as a file of `/etc/nginx/conf.d`. A page is kept by its address and encoding for those without a cart. It is fresh for a second, then asked for
 * with its ETag: a node answers that it is the same without making it again. While no node answers, it is sent as it was.
 */
function nginx({ nodes, names, port, cache, tls }: FrontSetup): string {
  const hosts = names.length ? names.join(' ') : '_';
  return `# Render nodes of a shop, behind nginx: written by last front nginx. Goes into the http block, as in /etc/nginx/conf.d/.
upstream last_nodes {
${nodes.map((node) => `    server ${node} max_fails=1 fail_timeout=2s;`).join('\n')}
    keepalive 32;
}

proxy_cache_path ${cache} levels=1:2 keys_zone=last_pages:20m max_size=2g inactive=7d use_temp_path=off;

# The better of the two that a browser takes; each is kept for itself.
map $http_accept_encoding $last_encoding {
    default "";
    "~*\\bbr\\b(?!\\s*;\\s*q=0(\\.0*)?(\\s*,|\\s*$))" br;
    "~*\\bgzip\\b(?!\\s*;\\s*q=0(\\.0*)?(\\s*,|\\s*$))" gzip;
}

# Of all cookies the shop reads that of a cart alone: who has none gets what others get.
map $cookie_${cart} $last_cookie {
    "" "";
    default "${cart}=$cookie_${cart}";
}

server {
    listen ${port}${tls ? ' ssl' : ''};
    server_name ${hosts};
${tls ? `    ssl_certificate ${tls.certificate};\n    ssl_certificate_key ${tls.key};\n` : ''}    client_max_body_size 1m;

    location / {
        proxy_pass http://last_nodes;
        proxy_http_version 1.1;
        proxy_set_header Connection "";
        proxy_set_header Host $http_host;
        proxy_set_header X-Forwarded-For $proxy_add_x_forwarded_for;
        proxy_set_header X-Forwarded-Proto $scheme;
        proxy_set_header X-Request-Id $request_id;
        proxy_set_header Accept-Encoding $last_encoding;
        proxy_set_header Cookie $last_cookie;

        proxy_cache last_pages;
        proxy_cache_key "$http_host $request_uri $last_encoding";
        proxy_ignore_headers Vary;
        proxy_cache_bypass $last_cookie $http_range;
        proxy_no_cache $last_cookie $http_range;
        proxy_cache_revalidate on;
        proxy_cache_lock on;
        # As long as a page itself allows (stale-while-revalidate), and no longer, it is sent while it is asked for again.
        proxy_cache_background_update on;
        proxy_cache_use_stale error timeout invalid_header http_500 http_502 http_503 http_504;

        # A node that ends or fails is not seen: another is asked. One that goes over to a newer release first has its files first.
        proxy_connect_timeout 2s;
        proxy_next_upstream error timeout invalid_header http_502 http_503 http_504;
        proxy_next_upstream_tries ${Math.max(2, nodes.length)};

        location /assets/ {
            proxy_pass http://last_nodes;
            proxy_next_upstream error timeout invalid_header http_502 http_503 http_504 http_404;
        }
    }
}
`;
}

/**
 * Varnish, as its one VCL file. What it keeps is told apart as nginx does it; it asks with the ETag when a page is older than a second, and sends what it
 * has for a day while no node answers its probes.
 */
function varnish({ nodes, names, groups = false }: FrontSetup): string {
  const probeHost = names[0] ?? '127.0.0.1';
  const backends = nodes.map((node, at) => {
    const [, host = node, port = '80'] = /^(.*):(\d+)$/.exec(node) ?? [];
    return `backend node_${at + 1} {
    .host = "${host.replace(/^\[|\]$/g, '')}";
    .port = "${port}";
    .connect_timeout = 2s;
    .probe = node_probe;
}`;
  });
  // IPv6 addresses stand in brackets where a port follows.
  const hosts = [...new Set(nodes.map((node) => node.replace(/:\d+$/, '').replace(/^\[|\]$/g, '')))];
  const acl = `
# Who may say what has changed.
acl last_nodes {
${hosts.map((host) => `    "${host}";`).join('\n')}
}
`;
  const purge = `
    if (req.method == "PURGE") {
        if (client.ip !~ last_nodes) {
            return (synth(403, "Only nodes say what has changed"));
        }
        # A list of strings, none of which means anything to a regular expression.
        if (req.http.Cache-Group-Invalidation !~ {"^"[A-Za-z0-9_-]+"(, ?"[A-Za-z0-9_-]+")*$"}) {
            return (synth(400, "Cache-Group-Invalidation names no groups"));
        }
        ban({"obj.http.Cache-Groups ~ (^|[^A-Za-z0-9_-])("} +
            regsuball(regsuball(req.http.Cache-Group-Invalidation, {"^"|"$"}, ""), {"", ?""}, "|") +
            {")([^A-Za-z0-9_-]|$)"});
        return (synth(200, "Dropped"));
    }`;
  const keptLonger = `
    # A page is kept until a node says that it has changed. One that was lost with what it knew would not say so: a minute at most.
    if (beresp.http.Cache-Groups) {
        set beresp.ttl = 60s;
    }`;
  return `# Render nodes of a shop, behind Varnish: written by last front varnish.
vcl 4.1;

import directors;
import std;

probe node_probe {
    .request = "GET /robots.txt HTTP/1.1" "Host: ${probeHost}" "Connection: close";
    .interval = 1s;
    .timeout = 1s;
    .window = 3;
    .threshold = 2;
    .initial = 2;
}

${backends.join('\n\n')}
${groups ? acl : ''}
sub vcl_init {
    new nodes = directors.round_robin();
${nodes.map((_, at) => `    nodes.add_backend(node_${at + 1});`).join('\n')}
}

sub vcl_recv {
    set req.backend_hint = nodes.backend();${groups ? purge : ''}
    if (req.method != "GET" && req.method != "HEAD") {
        return (pass);
    }
    # Of all cookies the shop reads that of a cart alone: who has none gets what others get.
    if (req.http.Cookie ~ "(^|;\\s*)${cart}=") {
        return (pass);
    }
    unset req.http.Cookie;
    # What is a second older than fresh is asked for again; while no node answers, it is sent as it was.
    if (std.healthy(req.backend_hint) && req.restarts == 0) {
        set req.grace = 1s;
    } else {
        set req.grace = 1d;
    }
    return (hash);
}

sub vcl_deliver {
    # Nodes failed before a probe told: what was sent before is sent on.
    if (resp.status >= 500 && req.restarts == 0 && (req.method == "GET" || req.method == "HEAD")) {
        return (restart);
    }${groups ? '\n    unset resp.http.Cache-Groups;' : ''}
}

sub vcl_backend_response {
    if (beresp.http.Set-Cookie || beresp.http.Cache-Control ~ "no-store|private") {
        set beresp.uncacheable = true;
        return (deliver);
    }
    # One that goes over to a newer release first has its files first.
    if (beresp.status == 404 && bereq.url ~ "^/assets/" && bereq.retries < ${Math.max(1, nodes.length - 1)}) {
        return (retry);
    }
    # A node's error is not kept, nor sent where an earlier answer is there.
    if (beresp.status >= 500) {
        if (bereq.is_bgfetch) {
            return (abandon);
        }
        set beresp.ttl = 0s;
        set beresp.uncacheable = true;
        return (deliver);
    }
    set beresp.grace = 1d;
    set beresp.keep = 1d;${groups ? keptLonger : ''}
}

sub vcl_backend_fetch {
    if (bereq.retries > 0) {
        set bereq.backend = nodes.backend();
    }
}

# A node that ended just now is not seen: another is asked.
sub vcl_backend_error {
    if (bereq.retries < ${Math.max(1, nodes.length)} && (bereq.method == "GET" || bereq.method == "HEAD")) {
        return (retry);
    }
    # What failed is not kept for those who wait, either.
    set beresp.ttl = 0s;
    set beresp.grace = 0s;
    set beresp.keep = 0s;
}
`;
}
