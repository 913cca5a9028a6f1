"""The 267 colour names of the ISCC-NBS system, each with the centroid of its block as sRGB.

Kelly and Judd, The ISCC-NBS Method of Designating Colors (NBS Circular 553, 1955), as given, free
of rights (CC0), by the package `color-name-lists` of the JavaScript registry; a test compares the
two.
"""

_TABLE = """
ffb5ba vivid pink; ea9399 strong pink; e4717a deep pink; f9ccca light pink;
dea5a4 moderate pink; c08081 dark pink; ead8d7 pale pink; c4aead greyish pink;
eae3e1 pinkish white; c1b6b3 pinkish grey; be0032 vivid red; bc3f4a strong red;
841b2d deep red; 5c0923 very deep red; ab4e52 moderate red; 722f37 dark red;
3f1728 very dark red; ad8884 light greyish red; 905d5d greyish red; 543d3f dark greyish red;
2e1d21 blackish red; 8f817f reddish grey; 5c504f dark reddish grey; 282022 reddish black;
ffb7a5 vivid yellowish pink; f99379 strong yellowish pink; e66761 deep yellowish pink;
f4c2c2 light yellowish pink; d9a6a9 moderate yellowish pink; c48379 dark yellowish pink;
ecd5c5 pale yellowish pink; c7ada3 greyish yellowish pink; c2ac99 brownish pink;
e25822 vivid reddish orange; d9603b strong reddish orange; aa381e deep reddish orange;
cb6d51 moderate reddish orange; 9e4732 dark reddish orange; b4745e greyish reddish orange;
882d17 strong reddish brown; 56070c deep reddish brown; a87c6d light reddish brown;
79443b moderate reddish brown; 3e1d1e dark reddish brown; 977f73 light greyish reddish brown;
674c47 greyish reddish brown; 43302e dark greyish reddish brown; f38400 vivid orange;
fd943f brilliant orange; ed872d strong orange; be6516 deep orange; fab57f light orange;
d99058 moderate orange; ae6938 brownish orange; 80461b strong brown; 593319 deep brown;
a67b5b light brown; 6f4e37 moderate brown; 422518 dark brown; 958070 light greyish brown;
635147 greyish brown; 3e322c dark greyish brown; 8e8279 light brownish grey;
5b504f brownish grey; 28201c brownish black; f6a600 vivid orange yellow;
ffc14f brilliant orange yellow; eaa221 strong orange yellow; c98500 deep orange yellow;
fbc97f light orange yellow; e3a857 moderate orange yellow; be8a3d dark orange yellow;
fad6a5 pale orange yellow; 996515 strong yellowish brown; 654522 deep yellowish brown;
c19a6b light yellowish brown; 826644 moderate yellowish brown; 4b3621 dark yellowish brown;
ae9b82 light greyish yellowish brown; 7e6d5a greyish yellowish brown;
483c32 dark greyish yellowish brown; f3c300 vivid yellow; fada5e brilliant yellow;
d4af37 strong yellow; af8d13 deep yellow; f8de7e light yellow; c9ae5d moderate yellow;
ab9144 dark yellow; f3e5ab pale yellow; c2b280 greyish yellow; a18f60 dark greyish yellow;
f0ead6 yellowish white; bfb8a5 yellowish grey; 967117 light olive brown;
6c541e moderate olive brown; 3b3121 dark olive brown; dcd300 vivid greenish yellow;
e9e450 brilliant greenish yellow; beb72e strong greenish yellow; 9b9400 deep greenish yellow;
eae679 light greenish yellow; b9b459 moderate greenish yellow; 98943e dark greenish yellow;
ebe8a4 pale greenish yellow; b9b57d greyish greenish yellow; 867e36 light olive;
665d1e moderate olive; 403d21 dark olive; 8c8767 light greyish olive; 5b5842 greyish olive;
363527 dark greyish olive; 8a8776 light olive grey; 57554c olive grey; 25241d olive black;
8db600 vivid yellow green; bdda57 brilliant yellow green; 7e9f2e strong yellow green;
467129 deep yellow green; c9dc89 light yellow green; 8a9a5b moderate yellow green;
dadfb7 pale yellow green; 8f9779 greyish yellow green; 404f00 strong olive green;
232f00 deep olive green; 4a5d23 moderate olive green; 2b3d26 dark olive green;
515744 greyish olive green; 31362b dark greyish olive green;
27a64c vivid yellowish green see #115; 83d37d brilliant yellowish green;
44944a strong yellowish green; 00622d deep yellowish green; 003118 very deep yellowish green;
b6e5af very light yellowish green; 93c592 light yellowish green;
679267 moderate yellowish green; 355e3b dark yellowish green;
173620 very dark yellowish green; 008856 vivid green; 3eb489 brilliant green;
007959 strong green; 00543d deep green; 8ed1b2 very light green; 6aab8e light green;
3b7861 moderate green; 1b4d3e dark green; 1c352d very dark green; c7e6d7 very pale green;
8da399 pale green; 5e716a greyish green; 3a4b47 dark greyish green; 1a2421 blackish green;
dfede8 greenish white; b2beb5 light greenish grey; 7d8984 greenish grey;
4e5755 dark greenish grey; 1e2321 greenish black; 008882 vivid bluish green;
00a693 brilliant bluish green; 007a74 strong bluish green; 00443f deep bluish green;
96ded1 very light bluish green; 66ada4 light bluish green; 317873 moderate bluish green;
004b49 dark bluish green; 002a29 very dark bluish green; 0085a1 vivid greenish blue;
239eba brilliant greenish blue; 007791 strong greenish blue; 2e8495 deep greenish blue;
9cd1dc very light greenish blue; 66aabc light greenish blue; 367588 moderate greenish blue;
004958 dark greenish blue; 002e3b very dark greenish blue; 00a1c2 vivid blue;
4997d0 brilliant blue; 0067a5 strong blue;
00416a deep blue; a1caf1 very light blue; 70a3cc light blue;
436b95 moderate blue; 00304e dark blue;
bcd4e6 very pale blue; 91a3b0 pale blue;
536878 greyish blue; 36454f dark greyish blue; 202830 blackish blue;
e9e9ed bluish white; b4bcc0 light bluish grey; 81878b bluish grey; 51585e dark bluish grey;
202428 bluish black; 30267a vivid purplish blue; 6c79b8 brilliant purplish blue;
545aa7 strong purplish blue; 272458 deep purplish blue; b3bce2 very light purplish blue;
8791bf light purplish blue; 4e5180 moderate purplish blue; 252440 dark purplish blue;
c0c8e1 very pale purplish blue; 8c92ac pale purplish blue; 4c516d greyish purplish blue;
9065ca vivid violet; 7e73b8 brilliant violet; 604e97 strong violet; 32174d deep violet;
dcd0ff very light violet; 8c82b6 light violet; 604e81 moderate violet; 2f2140 dark violet;
c4c3dd very pale violet; 9690ab pale violet; 554c69 greyish violet; 9a4eae vivid purple;
d399e6 brilliant purple; 875692 strong purple; 602f6b deep purple; 401a4c very deep purple;
d5badb very light purple; b695c0 light purple; 86608e moderate purple; 563c5c dark purple;
301934 very dark purple; d6cadd very pale purple; aa98a9 pale purple; 796878 greyish purple;
50404d dark greyish purple; 291e29 blackish purple; e8e3e5 purplish white;
bfb9bd light purplish grey; 8b8589 purplish grey; 5d555b dark purplish grey;
242124 purplish black; 870074 vivid reddish purple; 9e4f88 strong reddish purple;
702963 deep reddish purple; 54194e very deep reddish purple; b784a7 light reddish purple;
915c83 moderate reddish purple; 5d3954 dark reddish purple; 341731 very dark reddish purple;
aa8a9e pale reddish purple; 836479 greyish reddish purple; ffc8d6 brilliant purplish pink;
e68fac strong purplish pink; de6fa1 deep purplish pink; efbbcc light purplish pink;
d597ae moderate purplish pink; c17e91 dark purplish pink; e8ccd7 pale purplish pink;
c3a6b1 greyish purplish pink; ce4676 vivid purplish red; b3446c strong purplish red;
78184a deep purplish red; 54133b very deep purplish red; a8516e moderate purplish red;
673147 dark purplish red; 38152c very dark purplish red; af868e light greyish purplish red;
915f6d greyish purplish red; f2f3f4 white; b9b8b5 light grey; 848482 medium grey;
555555 dark grey; 222222 black
"""


def named_centroids() -> tuple[tuple[str, str], ...]:
    """Name and sRGB hex ("c4aead", D65 white) of each block, in the order of the system."""
    entries = _TABLE.replace("\n", " ").split(";")
    return tuple((words, code) for code, words in (one.strip().split(" ", 1) for one in entries))
