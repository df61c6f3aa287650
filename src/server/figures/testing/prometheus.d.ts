/** A parser of Prometheus' text format, which comes without types. */
declare module 'parse-prometheus-text-format' {
  interface Family {
    name: string;
    type: string;
    metrics: { value?: string; labels?: Record<string, string>; buckets?: Record<string, string> }[];
  }
  export default function parse(text: string): Family[];
}
