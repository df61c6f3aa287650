import { Command } from 'commander';
import { runCaseFiles } from './cases';

const program = new Command('last').description('The command line of Last, the workbench for storefront developers.');

program
  .command('cases')
  .description('run files of language cases; prints each that fails, and ends with “N passed, N failed”')
  .argument('<file...>')
  .action((files: string[]) => {
    process.exitCode = runCaseFiles(files, (line) => process.stdout.write(`${line}\n`));
  });

await program.parseAsync();
