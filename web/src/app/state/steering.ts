import { Injectable } from '@angular/core';

export type SteerKey = 'ahead' | 'back' | 'left' | 'right';

/** What is held to steer who walks or drives; one is steered at a time. */
@Injectable()
export class Steering {
  private readonly held = new Set<SteerKey>();
  private wantsJump = false;
  private leave: (() => void) | null = null;
  crouches = false;

  /** Who begins has it from now on; who had it before is told. */
  take(leave: () => void): void {
    if (this.leave !== leave) this.leave?.();
    this.leave = leave;
  }

  hold(key: SteerKey, down: boolean): void {
    if (down) this.held.add(key);
    else this.held.delete(key);
  }

  /** Everything is let go. */
  letGo(): void {
    this.held.clear();
    this.wantsJump = this.crouches = false;
  }

  /** 1 ahead, -1 back */
  get ahead(): number {
    return Number(this.held.has('ahead')) - Number(this.held.has('back'));
  }

  /** 1 to the right, -1 to the left */
  get right(): number {
    return Number(this.held.has('right')) - Number(this.held.has('left'));
  }

  jump(): void {
    this.wantsJump = true;
  }

  /** Whether a jump was asked for since the last time. */
  takeJump(): boolean {
    const wanted = this.wantsJump;
    this.wantsJump = false;
    return wanted;
  }
}
