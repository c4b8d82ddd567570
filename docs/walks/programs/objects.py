# Lanterns as objects, a method each: python3 objects.py COUNT FRAMES SEED
import random, sys, time


class Lantern:
    def __init__(self, dice):
        self.along, self.speed, self.glow = 200 * dice.random(), dice.random(), dice.random()

    def drift(self):
        self.speed += (1.2 - self.speed) * 0.013
        self.along = (self.along + self.speed / 60) % 200
        self.glow += (0.6 - self.glow) / 60


count, frames, seed = map(int, sys.argv[1:4])
dice = random.Random(seed)
lanterns = [Lantern(dice) for _ in range(count)]
rows = ["frame_ms,alive,outcome:along,outcome:glow"]
for frame in range(frames):
    start = time.perf_counter_ns()
    for lantern in lanterns:
        lantern.drift()
    rows.append(f"{(time.perf_counter_ns() - start) / 1e6:.6f},{len(lanterns)},,")
rows[-1] = rows[-1][:-2] + f",{sum(one.along for one in lanterns) / count},{sum(one.glow for one in lanterns) / count}"
print("\n".join(rows))
