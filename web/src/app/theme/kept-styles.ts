import { BaseComponent } from 'primeng/basecomponent';

interface Made {
  own: unknown;
  host: unknown;
  style: unknown;
}
type Styled = { _componentStyle?: object; _getHostInstance(of: unknown): { $style?: object } | undefined };

/**
 * The library puts the styles of a component together anew each time it reads one of them, some dozens of times as the
 * component is made, through all components round it: a quarter of the time that a panel takes to open. They are kept as
 * long as those that they were made of are the same.
 */
export function keepStyles(): void {
  const make = Object.getOwnPropertyDescriptor(BaseComponent.prototype, '$style')!.get!;
  const kept = new WeakMap<object, Made>();
  Object.defineProperty(BaseComponent.prototype, '$style', {
    configurable: true,
    get(this: Styled) {
      const [own, host] = [this._componentStyle, this._getHostInstance(this)?.$style];
      const made = kept.get(this);
      if (made && made.own === own && made.host === host) return made.style;
      const style: unknown = make.call(this);
      kept.set(this, { own, host, style });
      return style;
    },
  });
}
