import { call, type EditCall } from '~/core/edits';
import { readTable, wiresFrom } from '~/core/donor/table';

/** The estate's old loom, as its owner typed it off the bench: half sorted, two mysteries, a restraint plug. All made up. */
const typed = `connector\tcavity\tcolour\tsize\tfunction\tcondition\tsplice\tdecision\tpile\tmove to\tnote\tstrip
F12\t1\tGN/YE\t0.75\tCoolant sensor signal\tgood\t\tmove\truns the engine\tB10\t\t3
F12\t2\tBN\t0.75\tCoolant sensor return\tgood\tS4\tkeep\truns the engine\t\t\t3
F13\t1\tGN/WH\t0.75\tIntake air signal\tgood\t\tkeep\truns the engine\t\t\t4
F13\t2\tBN\t0.75\tIntake air return\tgood\tS4\tkeep\truns the engine\t\t\t4
F14\t1\tRD/BU\t0.75\tThrottle 5 V\tgood\tS5\tkeep\truns the engine\t\t\t2
F14\t2\tBN/GY\t0.75\tThrottle ground\tgood\tS4\tkeep\truns the engine\t\t\t2
F14\t3\tGN\t0.75\tThrottle signal\tchafed\t\tremove\truns the engine\t\tbare for 20 mm\t2
F15\t1\tRD\t1.5\tInjector feed 1\tgood\tS1\tkeep\truns the engine\t\t\t1
F15\t2\tYE/BK\t0.75\tInjector 1\tgood\t\textend\truns the engine\t\t\t1
F16\t1\tRD\t1.5\tInjector feed 2\tgood\tS1\tkeep\truns the engine\t\t\t1
F16\t2\tYE/BU\t0.75\tInjector 2\tgood\t\textend\truns the engine\t\t\t1
F17\t1\tRD\t1.5\tInjector feed 3\tgood\tS1\tkeep\truns the engine\t\t\t1
F17\t2\tYE/GN\t0.75\tInjector 3\tgood\t\textend\truns the engine\t\t\t1
F18\t1\tRD\t1.5\tInjector feed 4\tgood\tS1\tkeep\truns the engine\t\t\t1
F18\t2\tYE/RD\t0.75\tInjector 4\tgood\t\textend\truns the engine\t\t\t1
F19\t1\tRD\t1.5\tInjector feed 5\tgood\tS1\tkeep\truns the engine\t\t\t1
F19\t2\tYE/WH\t0.75\tInjector 5\tgood\t\textend\truns the engine\t\t\t1
F20\t1\tWH\t0.5\tCrank sensor\tbrittle\t\tremove\truns the engine\t\tnew shielded pair\t5
F20\t2\tBK\t0.5\tCrank sensor\tbrittle\t\tremove\truns the engine\t\tnew shielded pair\t5
F21\t1\tBU/RD\t1\tDistributor coil\tgood\t\tremove\truns the engine\t\tcoils are new\t6
F21\t2\tBK/WH\t1.5\tDistributor coil feed\tgood\tS2\tremove\truns the engine\t\t\t6
F22\t1\tGY/BK\t0.75\tIdle valve\tgood\tS2\tremove\truns the engine\t\tmotor throttle now\t6
F22\t2\tGY/YE\t0.75\tIdle valve\tgood\t\tremove\truns the engine\t\tmotor throttle now\t6
F23\t1\tBU\t0.75\tOil pressure lamp\tgood\t\tkeep\tgauges and body\t\t\t7
F24\t1\tYE/VT\t0.75\tTemperature gauge sender\tgood\t\tkeep\tgauges and body\t\t\t7
F25\t1\tBU/BK\t1\tCharge lamp\tgood\t\tkeep\tgauges and body\t\t\t7
F26\t1\tWH/BK\t1\tReverse light\tgood\t\tkeep\tgauges and body\t\t\t8
F26\t2\tWH/GN\t1\tReverse light feed\tgood\tS3\tkeep\tgauges and body\t\t\t8
F27\t1\tBK/RD\t2.5\tStarter solenoid\tgood\t\textend\tgauges and body\t\t\t8
F28\t3\tPK/BK\t0.5\t\tgood\t\tunknown\t\t\t12 V with the lights on\t8
F28\t4\tOG\t0.5\t\tcut\t\tunknown\t\t\t\t8
F28\t5\tGY\t0.5\t\tgood\t\t\t\t\t\t8
F29\t1\tGN/BK\t0.75\tSpeedometer\tgood\t\t\tgauges and body\t\t\t9
F29\t2\tBN\t0.75\tSpeedometer ground\tgood\tS6\t\tgauges and body\t\t\t9
F30\t1\tBU/YE\t0.75\tWasher pump\tgood\t\t\tgauges and body\t\t\t9
F30\t2\tBN\t0.75\tWasher pump ground\tgood\tS6\t\tgauges and body\t\t\t9
F31\t1\tYE/BN\t1.5\tHorn\tgood\t\t\tgauges and body\t\t\t9
Y1\t1\tYE/RD\t0.5\tAirbag squib left +\tgood\t\t\t\t\t\t10
Y1\t2\tYE/BK\t0.5\tAirbag squib left -\tgood\t\t\t\t\t\t10
Y1\t3\tYE\t0.5\tBelt tensioner\tgood\t\t\t\t\t\t10`;

/** Brings the list in as a person would paste it. */
export function donorLoom(): EditCall {
  const table = readTable(typed);
  if (!table.ok) throw new Error(`demo: ${table.problem.sentence}`);
  const { wires, issues } = wiresFrom(table.value, table.value.uses, [], (index) => `old-${index + 1}`);
  const stop = issues.find((issue) => issue.severity === 'stop');
  if (stop) throw new Error(`demo: ${stop.sentence}`);
  return call('addDonorWires', { wires: [...wires] });
}
