/** Orders, told to the shop's own system as they are made and as staff say what became of them. */
export { newSecret, tell, type Told } from './tell';
export { OrderSender } from './sender';
export { StandIn, type StandInSetup } from './stand-in';
export { verified } from './verify';
