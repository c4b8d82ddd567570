# Lanterns as a list for each figure: python3 lists.py COUNT FRAMES SEED
import random, sys, time

count, frames, seed = map(int, sys.argv[1:4])
dice = random.Random(seed)
along, speed, glow = [], [], []
for _ in range(count):
    along.append(200 * dice.random())
    speed.append(dice.random())
    glow.append(dice.random())
rows = ["frame_ms,alive,outcome:along,outcome:glow"]
for frame in range(frames):
    start = time.perf_counter_ns()
    speed = [v + (1.2 - v) * 0.013 for v in speed]
    along = [(x + v / 60) % 200 for x, v in zip(along, speed)]
    glow = [g + (0.6 - g) / 60 for g in glow]
    rows.append(f"{(time.perf_counter_ns() - start) / 1e6:.6f},{len(along)},,")
rows[-1] = rows[-1][:-2] + f",{sum(along) / count},{sum(glow) / count}"
print("\n".join(rows))
