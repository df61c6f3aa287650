import { Command } from 'commander';
import { runCaseFiles } from '@/server/cases';
import { seedDemo } from './seed';

const program = new Command('last').description('The command line of Last, the workbench for storefront developers.');

program
  .command('cases')
  .description('run files of language cases; prints each that fails, and ends with “N passed, N failed”')
  .argument('<file...>')
  .action((files: string[]) => {
    process.exitCode = runCaseFiles(files, (line) => process.stdout.write(`${line}\n`));
  });

program
  .command('seed')
  .description('fill an empty data folder (LAST_DATA) with the demo shop')
  .action(async () => {
    const port = Number(process.env.PORT ?? 4170);
    process.exitCode = await seedDemo(
      (line) => process.stdout.write(`${line}\n`),
      Number.isInteger(port) ? port : null,
    );
  });

await program.parseAsync();
