import type { Template } from '../1-parse/nodes';
import type { Source } from '../1-parse/source';
import { analysisOf } from '../2-check/analysis';
import { generate, type Probe } from '../3-compile/generate';
import { helpers, type TemplateFunction } from './runtime';
import type { TracedTemplate } from './trace';

/** A template ready to run. Made once for each content; holds nothing of any render. */
export interface Compiled {
  template: Template;
  run: TemplateFunction;
  /** Of a traced one: what its marks speak of. */
  traced: Omit<TracedTemplate, 'name'> | null;
}

/**
 * Compiles a template to one JavaScript function; traced, to one whose page carries marks and that tells how its conditions
 * came out. A template with errors compiles too: what could not be read prints nothing.
 */
export function compileTemplate(template: Template, traced = false, probe: Probe = undefined): Compiled {
  const { code, sources, sites, bindings } = generate(template, analysisOf(template), traced, probe);
  const make = new Function('h', 'S', code) as (h: typeof helpers, sources: Source[]) => TemplateFunction;
  return { template, run: make(helpers, sources), traced: traced ? { template, sites, bindings } : null };
}
