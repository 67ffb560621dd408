#!/usr/bin/env python3
"""Writes the tables of SPI memories: core/families/nor/parts.c, core/families/ee25/parts.c, and their headers.

Usage: tools/nor-parts.py       (run it from anywhere; the files are written into the tree)

Facts are from the makers' data sheets: ids, sizes, instructions, protection bits, times of the slowest grade that is common. Of the smaller makers (those under SMALL_MAKERS) the
sheets were not at hand when this was written: their ids are those in general use, their protection is taken to be that of the part they replace.

A row is: name, id, KiB, then words that change what its group says.
"""
import os

ROOT = os.path.dirname(os.path.dirname(os.path.abspath(__file__)))

# Shared descriptors: C text by name. Times are typical and longest, in microseconds. The longest only end a wait for a chip that is stuck: of several makers the longest of all stands here.
ERASES = {
    #                4 KiB               32 KiB               64 KiB
    "uniform":   [(4096, 45000, 800000, "20", "21"), (32768, 120000, 2400000, "52", "5C"), (65536, 150000, 4000000, "D8", "DC")],
    "no_half":   [(4096, 60000, 800000, "20", "21"), (65536, 500000, 4000000, "D8", "DC")],
    "subsector": [(4096, 250000, 800000, "20", "21"), (65536, 700000, 3000000, "D8", "DC")],
    "sector64":  [(65536, 600000, 3000000, "D8", "DC")],
    "sector32":  [(32768, 600000, 3000000, "D8", "")],
    "sector256": [(262144, 520000, 3000000, "D8", "DC")],
    "sector256_old": [(262144, 1600000, 8000000, "D8", "")],
    "sector256_either": [(262144, 520000, 8000000, "D8", "DC")],  # of two parts with one id, which nothing tells apart: the longest of either
    "sst":       [(4096, 18000, 25000, "20", ""), (32768, 18000, 25000, "52", ""), (65536, 18000, 25000, "D8", "")],
    "sst_old":   [(4096, 18000, 25000, "20", ""), (32768, 18000, 25000, "52", "")],
    "sst_wf":    [(4096, 36000, 75000, "20", ""), (32768, 36000, 75000, "52", ""), (65536, 36000, 75000, "D8", "")],
    "pmc":       [(4096, 60000, 150000, "D7", ""), (32768, 60000, 150000, "D8", "")],
    "issi_lq":   [(4096, 70000, 300000, "20", ""), (32768, 130000, 500000, "52", ""), (65536, 200000, 1000000, "D8", "")],
    "octal":     [(4096, 50000, 400000, "20", "21"), (32768, 100000, 1000000, "52", "5C"), (131072, 150000, 2000000, "D8", "DC")],
    "fs":        [(32768, 600000, 1100000, "52", "")],
}
CHIP = {"sector64": ("C7", 10000), "sector256": ("C7", 2100), "sector256_old": ("C7", 6600), "sector256_either": ("C7", 6600), "sst": ("60", 35), "sst_old": ("60", 70), "sst_wf": ("60", 150),
        "sector32": ("C7", 14000), "subsector": ("C7", 10700), "fs": ("C7", 4000)}
TIMES = {
    "usual": (700, 5000, 40000), "slow": (1400, 5000, 40000), "m25p": (800, 7000, 15000), "sst": (10, 25, 10000), "sst_old": (20, 60, 10000),
    "sst_wf": (25, 60, 10000), "spansion": (340, 2000, 500000), "spansion_or_p": (340, 3000, 500000), "fl_p": (1500, 3000, 500000), "low_power": (850, 10000, 30000), "micron": (500, 5000, 8000), "at25": (1000, 5000, 40000),
    "ee25": (5000, 10000, 10000), "ee25_6": (6000, 12000, 12000), "ee25_10": (10000, 20000, 20000),
}
#          count enable reads        writes       kept
STATUS = {
    "one":      (1, "06", ["05"], ["01"], ["FC"]),
    "one_sst_old": (1, "50", ["05"], ["01"], ["8C"]),
    "one_sst":  (1, "06", ["05"], ["01"], ["BC"]),                         # bit 6 is AAI
    "w25x":     (1, "06", ["05"], ["01"], ["FC"]),
    "w25q":     (3, "06", ["05", "35", "15"], ["01", "01", "11"], ["FC", "7B", "E4"]),  # SUS and ADS come and go
    "w25q_wide": (3, "06", ["05", "35", "15"], ["01", "01", "11"], ["FC", "7B", "E6"]),
    "gd25q":    (2, "06", ["05", "35"], ["01", "01"], ["FC", "7B"]),
    "mx_config": (2, "06", ["05", "15"], ["01", "01"], ["FC", "CF"]),
    "micron":   (1, "06", ["05"], ["01"], ["FC"]),
    "micron_stacked": (1, "06", ["05"], ["01"], ["FC"], None, True),
    "spansion": (2, "06", ["05", "35"], ["01", "01"], ["9C", "FE"], "30"), # bits 5 and 6 are error flags; FREEZE is bit 0 of 35
    "issi":     (2, "06", ["05", "48"], ["01", "0"], ["FC", "02"]),
    "at25df":   (1, "06", ["05"], ["01"], ["8C"]),
    "ee25":     (1, "06", ["05"], ["01"], ["8C"]),
    "ee25_ones": (1, "06", ["05"], ["01"], ["8C"], None, False, True), # reads all ones while it writes
}
BP3, BP4, BP2 = ["04", "08", "10"], ["04", "08", "10", "20"], ["04", "08"]
#        fields of struct cm_nor_guard
GUARD = {
    "w25q":   dict(bp=BP3, fraction=64, least=65536, tb=(0, "20"), sec="40", cmp=(1, "40"), lock="80", srl=(1, "01"), wps=(2, "04")),
    "w25q_wide": dict(bp=BP4, fraction=0, least=65536, tb=(0, "40"), cmp=(1, "40"), lock="80", srl=(1, "01"), wps=(2, "04")),
    "gd25q":  dict(bp=BP3, fraction=64, least=65536, tb=(0, "20"), sec="40", cmp=(1, "40"), lock="80", srl=(1, "01")),
    "w25x":   dict(bp=BP3, fraction=64, least=65536, tb=(0, "20"), lock="80"),
    "w25x2":  dict(bp=BP2, fraction=4, least=0, tb=(0, "20"), lock="80"),
    "three":  dict(bp=BP3, fraction=64, least=65536, lock="80"),
    "two":    dict(bp=BP2, fraction=4, least=0, lock="80"),
    "two_64": dict(bp=BP2, fraction=64, least=65536, lock="80"),
    "mirror": dict(bp=BP4, fraction=64, least=65536, mirrored=True, lock="80"),
    "mx_config": dict(bp=BP4, fraction=0, least=65536, tb=(1, "08"), tb_fixed=True, lock="80"),
    "micron": dict(bp=["04", "08", "10", "40"], fraction=0, least=65536, tb=(0, "20"), lock="80"),
    "m25px":  dict(bp=BP3, fraction=64, least=65536, tb=(0, "20"), lock="80"),
    "sst":    dict(bp=BP3, fraction=64, least=65536, lock="80", volatile=True),
    "sst2":   dict(bp=BP2, fraction=4, least=0, lock="80", volatile=True),
    "spansion": dict(bp=BP3, fraction=64, least=0, tb=(1, "20"), tb_fixed=True, lock="80", srl=(1, "01")),
    "issi":   dict(bp=BP4, fraction=0, least=65536, tb=(1, "02"), tb_fixed=True, lock="80"),
    "vague3": dict(bp=BP3, fraction=64, least=65536, vague=True, lock="80"),
    "vague4": dict(bp=BP4, fraction=64, least=65536, vague=True, lock="80"),
    "at25df": dict(bp=BP2, fraction=0, least=65536, by_sector=True, lock="80", volatile=True),
    "ee25":   dict(bp=BP2, fraction=4, least=0, lock="80"),
    "ee25_fixed": dict(bp=BP2, fraction=4, least=0),
}
V3, V3W, V25, V18, VLOW, V5 = (2700, 3600), (2300, 3600), (2300, 3600), (1650, 2000), (1650, 3600), (2500, 5500)

# `clock` is the plain read's limit, on the safe side; `fast` that of all other instructions, where all the sheets of a name agree on
# at least that much over its whole range of supply (W25Q128FV and JV: 104 MHz).

GROUPS = []

def group(title, rows, **what):
    what = dict(dict(supply=V3, clock=33, page=256, erases="uniform", times="usual", status="one", guard="vague3", wide="B7"), **what)
    for row in rows:
        words = row.split()
        own = dict(what)
        for word in words[3:]:
            key, _, value = word.partition("=")
            own[key] = int(value) if value.isdigit() else {"V18": V18, "VLOW": VLOW, "V25": V25}.get(value, value)
        GROUPS.append((title, words[0], words[1], int(words[2]), own))

group("Winbond", ["w25x10 EF3011 128 guard=w25x2", "w25x20 EF3012 256 guard=w25x2", "w25x40 EF3013 512", "w25x80 EF3014 1024", "w25x16 EF3015 2048", "w25x32 EF3016 4096",
                  "w25x64 EF3017 8192"], erases="no_half", guard="w25x", status="w25x")
group("Winbond", ["w25q20 EF4012 256 supply=V25", "w25q40 EF4013 512", "w25q80 EF4014 1024", "w25q16 EF4015 2048", "w25q32 EF4016 4096", "w25q64 EF4017 8192", "w25q128 EF4018 16384 fast=104"],
      guard="w25q", status="w25q")
group("Winbond", ["w25q256 EF4019 32768", "w25q512jv EF4020 65536 wide=OPCODES_4", "w25q01jv EF4021 131072 wide=OPCODES_4"], guard="w25q_wide", status="w25q_wide")
group("Winbond, double rate", ["w25q16jv-m EF7015 2048", "w25q32jv-m EF7016 4096", "w25q64jv-m EF7017 8192", "w25q128jv-m EF7018 16384"], guard="w25q", status="w25q")
group("Winbond, double rate", ["w25q256jv-m EF7019 32768 wide=OPCODES_4", "w25q512jv-m EF7020 65536 wide=OPCODES_4", "w25q01jv-m EF7021 131072 wide=OPCODES_4", "w25q02jv-m EF7022 262144 wide=OPCODES_4"],
      guard="w25q_wide", status="w25q_wide")
group("Winbond, 1.8 V", ["w25q40bw EF5013 512", "w25q80bw EF5014 1024", "w25q20ew EF6012 256", "w25q40ew EF6013 512", "w25q80ew EF6014 1024", "w25q16dw EF6015 2048", "w25q32dw EF6016 4096", "w25q64dw EF6017 8192", "w25q128fw EF6018 16384",
                         "w25q16jw-m EF8015 2048", "w25q32jw-m EF8016 4096", "w25q64jw-m EF8017 8192", "w25q128jw-m EF8018 16384"], guard="w25q", status="w25q", supply=V18)
group("Winbond, 1.8 V", ["w25q256fw EF6019 32768", "w25q512nw EF6020 65536 wide=OPCODES_4", "w25q256jw-m EF8019 32768"], guard="w25q_wide", status="w25q_wide", supply=V18)
group("GigaDevice", ["gd25q512 C84010 64 guard=vague3", "gd25q10 C84011 128 guard=vague3", "gd25q20 C84012 256", "gd25q40 C84013 512", "gd25q80 C84014 1024", "gd25q16 C84015 2048", "gd25q32 C84016 4096",
                     "gd25q64 C84017 8192", "gd25q128 C84018 16384", "gd25vq16 C84215 2048 supply=V25"], guard="gd25q", status="gd25q")
group("GigaDevice", ["gd25q256 C84019 32768", "gd25q512mc C84020 65536", "gd25b512me C8471A 65536", "gd55b01ge C8471B 131072"], guard="vague4", status="one")
group("GigaDevice, 1.8 V", ["gd25lq40 C86013 512", "gd25lq80 C86014 1024", "gd25lq16 C86015 2048", "gd25lq32 C86016 4096", "gd25lq64 C86017 8192", "gd25lq128 C86018 16384"], guard="gd25q", status="gd25q", supply=V18)
group("GigaDevice, 1.8 V", ["gd25lq256 C86019 32768", "gd25lb512me C8671A 65536"], guard="vague4", supply=V18)
group("GigaDevice, wide supply", ["gd25wq20 C86512 256", "gd25wq40 C86513 512", "gd25wq80 C86514 1024", "gd25wq16 C86515 2048", "gd25wq32 C86516 4096", "gd25wq64 C86517 8192", "gd25wq128 C86518 16384"], guard="gd25q", status="gd25q", supply=VLOW, times="slow")
group("Macronix", ["mx25l512 C22010 64 guard=two", "mx25l1005 C22011 128 guard=two", "mx25l2005 C22012 256 guard=two_64", "mx25l4005 C22013 512", "mx25l8005 C22014 1024"], guard="three", erases="no_half", times="slow")
group("Macronix", ["mx25l1606e C22015 2048", "mx25l3206e C22016 4096", "mx25l6406e C22017 8192"], guard="mirror", erases="no_half", times="slow")
group("Macronix", ["mx25l3233f C22016 4096", "mx25l6433f C22017 8192", "mx25l12835f C22018 16384", "mx25l25635f C22019 32768", "mx66l51235f C2201A 65536 wide=OPCODES_4",
                   "mx66l1g45g C2201B 131072 wide=OPCODES_4", "mx66l2g45g C2201C 262144 wide=OPCODES_4"], guard="mx_config", status="mx_config")
group("Macronix", ["mx25l3205d C22016 4096", "mx25l6405d C22017 8192", "mx25l12805d C22018 16384"], guard="vague4", erases="no_half", times="slow")  # which ends their bits mean first differs from sheet to sheet
group("Macronix", ["mx25l3255e C29E16 4096", "mx25l6455e C22617 8192", "mx25l12855e C22618 16384", "mx25l25655e C22619 32768"], guard="vague4", status="one")
group("Macronix, 1.8 V", ["mx25u2033e C22532 256", "mx25u4035 C22533 512", "mx25u8035 C22534 1024", "mx25u1635e C22535 2048", "mx25u3235e C22536 4096", "mx25u6435e C22537 8192"], guard="vague4", supply=V18)
group("Macronix, 1.8 V", ["mx25u12835f C22538 16384", "mx25u25635f C22539 32768", "mx66u51235f C2253A 65536 wide=OPCODES_4", "mx66u1g45g C2253B 131072 wide=OPCODES_4", "mx66u2g45g C2253C 262144 wide=OPCODES_4"],
      guard="mx_config", status="mx_config", supply=V18)
group("Macronix, 2.3 V", ["mx25v1035f C22311 128", "mx25v2035f C22312 256", "mx25v4035f C22313 512", "mx25v8035f C22314 1024", "mx25v1635f C22315 2048"], guard="vague4", supply=V25)
group("Macronix, low power", ["mx25r512f C22810 64", "mx25r1035f C22811 128", "mx25r2035f C22812 256", "mx25r4035f C22813 512", "mx25r8035f C22814 1024", "mx25r1635f C22815 2048", "mx25r3235f C22816 4096", "mx25r6435f C22817 8192"],
      guard="vague4", supply=VLOW, times="low_power")
group("Micron", ["m25p05 202010 64 guard=vague3 erases=sector32", "m25p10 202011 128 guard=two erases=sector32", "m25p20 202012 256 guard=two", "m25p40 202013 512", "m25p80 202014 1024", "m25p16 202015 2048", "m25p32 202016 4096",
                 "m25p64 202017 8192", "m25p128 202018 16384 erases=sector256_old"], guard="three", erases="sector64", times="m25p", clock=20)
group("Micron", ["m25px80 207114 1024", "m25px16 207115 2048", "m25px32 207116 4096", "m25px32-s0 207316 4096", "m25px32-s1 206316 4096", "m25px64 207117 8192"], guard="m25px", erases="no_half", times="m25p")
group("Micron", ["m25pe10 208011 128", "m25pe20 208012 256", "m25pe40 208013 512", "m25pe80 208014 1024", "m25pe16 208015 2048"], guard="three", erases="sector64", times="m25p")  # the erases of pages (DB) and of 4 KiB (20) are not on all of them
group("Micron", ["m45pe10 204011 128", "m45pe20 204012 256", "m45pe40 204013 512", "m45pe80 204014 1024", "m45pe16 204015 2048"], guard=None, erases="sector64", times="m25p")  # erases of pages (DB) are left out: see above
group("Micron", ["n25q032 20BA16 4096", "n25q064 20BA17 8192", "n25q128 20BA18 16384 fast=108", "n25q256 20BA19 32768 wide=WREN_B7", "n25q512 20BA20 65536 wide=WREN_B7 status=micron_stacked",
                 "mt25ql01g 20BA21 131072 wide=WREN_B7 status=micron_stacked", "mt25ql02g 20BA22 262144 wide=WREN_B7 status=micron_stacked", "n25q00 20BA21 131072 wide=WREN_B7 status=micron_stacked"], guard="micron", status="micron", erases="subsector", times="micron")
group("Micron, 1.8 V", ["n25q016-1v8 20BB15 2048", "n25q032-1v8 20BB16 4096", "n25q064-1v8 20BB17 8192", "n25q128-1v8 20BB18 16384", "n25q256-1v8 20BB19 32768 wide=WREN_B7", "n25q512-1v8 20BB20 65536 wide=WREN_B7 status=micron_stacked",
                        "mt25qu01g 20BB21 131072 wide=WREN_B7 status=micron_stacked", "mt25qu02g 20BB22 262144 wide=WREN_B7 status=micron_stacked"], guard="micron", status="micron", erases="subsector", times="micron", supply=V18)
group("Micron, 1.8 V", ["mt35xu512 2C5B1A 65536 wide=OPCODES_4", "mt35xu01g 2C5B1B 131072 wide=OPCODES_4", "mt35xu02g 2C5B1C 262144 wide=OPCODES_4"], guard="micron", status="micron_stacked", erases="octal", times="micron", supply=V18)
group("Numonyx", ["s33-160 898911 2048", "s33-320 898912 4096", "s33-640 898913 8192"], guard="vague3", erases="sector64", times="m25p")
group("Infineon, 1.8 V", ["s25fs128s-64k 0120184D0181 16384 wide=OPCODES_4 erases=sector64", "s25fs256s 0102194D0081 32768 wide=OPCODES_4", "s25fs256s-64k 0102194D0181 32768 wide=OPCODES_4 erases=sector64", "s25fs512s 0102204D0081 65536 wide=OPCODES_4"],
      guard="spansion", status="spansion", erases="sector256", times="spansion", supply=V18)
group("Infineon", ["s25fl128p 0120180300 16384 erases=sector256_old times=fl_p", "s25fl128p-64k 0120180301 16384 erases=sector64 times=fl_p", "s25fl128s 0120184D00 16384 erases=sector256_either times=spansion_or_p", "s25fl128s-64k 0120184D01 16384 erases=sector64 times=spansion_or_p",
                   "s25fl256s 0102194D00 32768 wide=OPCODES_4", "s25fl256s-64k 0102194D01 32768 wide=OPCODES_4 erases=sector64", "s25fl512s 0102204D00 65536 wide=OPCODES_4", "s70fl01gs 0102214D00 131072 wide=OPCODES_4",
                   "s25fl129p 0120184D00 16384 erases=sector256_old times=fl_p", "s25fl129p-64k 0120184D01 16384 erases=sector64 times=fl_p"],
      guard="spansion", status="spansion", erases="sector256", times="spansion")
group("Infineon", ["s25fl004a 010212 512", "s25fl008a 010213 1024", "s25fl016a 010214 2048", "s25fl032p 010215 4096", "s25fl064p 010216 8192"], guard="three", erases="sector64", times="m25p")
group("Infineon", ["s25fl204k 014013 512", "s25fl208k 014014 1024", "s25fl116k 014015 2048", "s25fl132k 014016 4096", "s25fl164k 014017 8192"], guard="gd25q", status="gd25q")
group("Infineon", ["s25fl064l 016017 8192", "s25fl128l 016018 16384", "s25fl256l 016019 32768 wide=OPCODES_4"], guard="vague4", status="one")
group("SST", ["sst25vf020b BF258C 256", "sst25vf040b BF258D 512", "sst25vf080b BF258E 1024", "sst25vf016b BF2541 2048", "sst25vf032b BF254A 4096"], guard="sst", status="one_sst", erases="sst", times="sst", page=2, clock=25)
group("SST, 1.8 V", ["sst25wf512 BF2501 64 guard=sst2", "sst25wf010 BF2502 128 guard=sst2", "sst25wf020 BF2503 256", "sst25wf040 BF2504 512", "sst25wf080 BF2505 1024"], guard="sst", status="one_sst", erases="sst_wf", times="sst_wf", page=2, clock=20, supply=V18)
group("SST, by 90", ["sst25vf512a 90BF48 64", "sst25vf010a 90BF49 128", "sst25vf020 90BF43 256", "sst25vf040 90BF44 512"], guard="sst2", status="one_sst_old", erases="sst_old", times="sst_old", page=1, clock=20)
group("SST", ["sst25vf064c BF254B 8192"], guard="vague4", erases="uniform", times="slow")
group("SST, 1.8 V", ["sst25wf020a 621612 256", "sst25wf040b 621613 512", "sst25wf080b 621614 1024"], guard="vague3", supply=V18, erases="no_half", times="slow")
group("Adesto", ["at25fs010 1F6601 128", "at25fs040 1F6604 512"], guard="vague3", erases="fs", times="at25")
group("Adesto", ["at25df021 1F4300 256", "at25df041a 1F4401 512", "at25df081a 1F4501 1024", "at25df161 1F4602 2048", "at25df321a 1F4701 4096", "at25df641 1F4800 8192", "at26f004 1F0400 512", "at26df081a 1F4501 1024",
                 "at26df161 1F4600 2048", "at26df161a 1F4601 2048", "at25df321 1F4700 4096", "at26df321 1F4700 4096"], guard="at25df", status="at25df", times="at25")
group("Adesto", ["at25sf041 1F8401 512", "at25sf081 1F8501 1024", "at25sf161 1F8601 2048", "at25sf321 1F8701 4096", "at25sf641 1F8801 8192", "at25sf128a 1F8901 16384"], guard="gd25q", status="gd25q", times="usual")
group("Eon", ["en25f10 1C3111 128", "en25f20 1C3112 256", "en25f40 1C3113 512", "en25f80 1C3114 1024", "en25f16 1C3115 2048", "en25f32 1C3116 4096"], guard="vague3", erases="no_half")
group("Eon", ["en25p16 1C2015 2048", "en25p32 1C2016 4096", "en25p64 1C2017 8192"], guard="vague3", erases="sector64", times="m25p")
group("Eon", ["en25q40 1C3013 512", "en25q80 1C3014 1024", "en25q16 1C3015 2048", "en25q32b 1C3016 4096", "en25q64 1C3017 8192", "en25q128 1C3018 16384", "en25qh16 1C7015 2048", "en25qh32 1C7016 4096", "en25qh64 1C7017 8192",
              "en25qh128 1C7018 16384", "en25qh256 1C7019 32768"], guard="vague4", erases="no_half")
group("Eon, 1.8 V", ["en25s40 1C3813 512", "en25s80 1C3814 1024", "en25s16 1C3815 2048", "en25s32 1C3816 4096", "en25s64 1C3817 8192"], guard="vague4", erases="no_half", supply=V18)
group("ISSI", ["is25lq020b 9D4012 256", "is25lq040b 9D4013 512", "is25lq080b 9D4014 1024", "is25lq016b 9D4015 2048", "is25lq032b 9D4016 4096"], guard="vague4", erases="issi_lq", supply=V25)
group("ISSI", ["is25lp080d 9D6014 1024", "is25lp016d 9D6015 2048", "is25lp032d 9D6016 4096", "is25lp064 9D6017 8192", "is25lp128 9D6018 16384", "is25lp256 9D6019 32768", "is25lp512m 9D601A 65536 wide=OPCODES_4",
               "is25lp01g 9D601B 131072 wide=OPCODES_4"], guard="issi", status="issi", supply=V25)
group("ISSI, 1.8 V", ["is25wp020 9D7012 256", "is25wp040 9D7013 512", "is25wp080 9D7014 1024", "is25wp016 9D7015 2048", "is25wp032 9D7016 4096", "is25wp064 9D7017 8192", "is25wp128 9D7018 16384", "is25wp256 9D7019 32768",
                      "is25wp512m 9D701A 65536 wide=OPCODES_4"], guard="issi", status="issi", supply=V18)
group("PMC", ["pm25lv512a 7F9D7B 64", "pm25lv010a 7F9D7C 128", "pm25lv020 7F9D7D 256", "pm25lv040 7F9D7E 512"], guard="vague3", erases="pmc", times="slow")
group("PMC", ["pm25lq032c 7F9D46 4096"], guard="vague4", erases="issi_lq")
# SMALL_MAKERS
group("AMIC", ["a25l512 373010 64", "a25l010 373011 128", "a25l020 373012 256", "a25l040 373013 512", "a25l080 373014 1024", "a25l016 373015 2048", "a25l032 373016 4096", "a25lq16 374015 2048", "a25lq32a 374016 4096", "a25lq64 374017 8192"],
      guard="vague4", erases="no_half", times="slow")
group("ESMT", ["f25l08pa 8C2014 1024", "f25l16pa 8C2115 2048", "f25l32pa 8C2016 4096", "f25l32qa 8C4116 4096", "f25l64qa 8C4117 8192"], guard="vague4", erases="no_half")
group("Fudan", ["fm25q08 A14014 1024", "fm25q16 A14015 2048", "fm25q32 A14016 4096", "fm25q64 A14017 8192", "fm25q128 A14018 16384"], guard="gd25q", status="gd25q")
group("Puya", ["p25q40h 856013 512", "p25q80h 856014 1024", "p25q16h 856015 2048", "p25q32h 856016 4096", "p25q64h 856017 8192", "p25q128h 856018 16384", "py25q128ha 852018 16384"], guard="gd25q", status="gd25q", supply=V25, times="slow")
group("XTX", ["xt25f04 0B4013 512", "xt25f08 0B4014 1024", "xt25f16 0B4015 2048", "xt25f32 0B4016 4096", "xt25f64 0B4017 8192", "xt25f128 0B4018 16384"], guard="gd25q", status="gd25q")
group("Boya", ["by25q40 684013 512", "by25q80 684014 1024", "by25q16 684015 2048", "by25q32 684016 4096", "by25q64 684017 8192", "by25q128 684018 16384"], guard="gd25q", status="gd25q")
group("Zbit", ["zb25vq16 5E4015 2048", "zb25vq32 5E4016 4096", "zb25vq64 5E4017 8192", "zb25vq128 5E4018 16384"], guard="gd25q", status="gd25q")
group("XMC", ["xm25qh64c 204017 8192", "xm25qh128c 204018 16384", "xm25qh64a 207017 8192", "xm25qh128a 207018 16384"], guard="vague4")
group("XMC, 1.8 V", ["xm25qu64c 204117 8192", "xm25qu128c 204118 16384"], guard="vague4", supply=V18)
group("Fidelix", ["fm25q16a F83215 2048", "fm25q32a F83216 4096", "fm25q64a F83217 8192"], guard="vague4")
group("Berg", ["bg25q40 E04013 512", "bg25q80 E04014 1024", "bg25q16 E04015 2048", "bg25q32 E04016 4096"], guard="gd25q", status="gd25q")
group("Nantronics", ["n25s10 D53011 128", "n25s20 D53012 256", "n25s40 D53013 512", "n25s80 D53014 1024", "n25s16 D53015 2048", "n25s32 D53016 4096"], guard="vague3", erases="no_half")
NOR = GROUPS
GROUPS = []

# Serial EEPROMs: no id. Sizes in bytes here. address: bytes; high: address bit 8 in the opcode.
def eeprom(rows, **what):
    for row in rows:
        words = row.split()
        own = dict(dict(supply=V5, clock=5, times="ee25", status="ee25", guard="ee25", address=2, high=False), **what)
        for word in words[3:]:
            key, _, value = word.partition("=")
            own[key] = int(value) if value.isdigit() else {"V18": V18, "VLOW": VLOW, "V25": V25, "yes": True}.get(value, value)
        GROUPS.append(("", words[0], int(words[1]), int(words[2]), own))

eeprom(["25lc010a 128 16", "25lc020a 256 16", "25lc040a 512 16 high=yes"], address=1, guard="ee25_fixed")
eeprom(["25lc080c 1024 16", "25lc080d 1024 32", "25lc160c 2048 16", "25lc160d 2048 32", "25lc320a 4096 32", "25lc640a 8192 32", "25lc128 16384 64", "25lc256 32768 64", "25lc512 65536 128", "25lc1024 131072 256 address=3 times=ee25_6"])
eeprom(["at25010b 128 8", "at25020b 256 8", "at25040b 512 8 high=yes"], address=1, guard="ee25_fixed", supply=(1800, 5500), status="ee25_ones")
eeprom(["at25080b 1024 32", "at25160b 2048 32", "at25320b 4096 32", "at25640b 8192 32", "at25128b 16384 64", "at25256b 32768 64", "at25512 65536 128", "at25m01 131072 256 address=3", "at25m02 262144 256 times=ee25_10 address=3"], supply=(1800, 5500), status="ee25_ones")
eeprom(["m95010 128 16", "m95020 256 16", "m95040 512 16 high=yes"], address=1, guard="ee25_fixed")
eeprom(["m95080 1024 32", "m95160 2048 32", "m95320 4096 32", "m95640 8192 32", "m95128 16384 64", "m95256 32768 64", "m95512 65536 128", "m95m01 131072 256 address=3", "m95m02 262144 256 times=ee25_10 address=3"])
EE25 = GROUPS

def hexes(values):
    return "{" + ", ".join("0x" + v if v != "0" else "0" for v in values) + "}"

def c_name(name):
    return "cm_" + name.replace("-", "_")

def row_c(name, id_hex, size, own, rewrites):
    ident = [id_hex[i:i + 2] for i in range(0, len(id_hex), 2)]
    lines = ["const struct cm_nor_part %s = {" % c_name(name)]
    id_text = ", .id = %s, .id_bytes = %d" % (hexes(ident), len(ident)) if ident else ""
    lines.append('    .part = {.name = "%s"%s, .supply_min_mv = %d, .supply_max_mv = %d},' % (name, id_text, *own["supply"]))
    fast = ".fast_hz = %d, " % (own["fast"] * 1000000) if own.get("fast") else ""
    wide = ".wide = CM_NOR_%s, " % own["wide"] if not rewrites and size > 16 << 20 else ""
    rest = ".bytes = %d, .clock_hz = %d, %s.page_bytes = %d, .address_bytes = %d, %s" % (size, own["clock"] * 1000000, fast, own["page"], own.get("address", 3), wide)
    if rewrites:
        rest += ".rewrites = true, " + (".high_in_opcode = true, " if own["high"] else "")
    lines.append("    " + rest.rstrip())
    erases = "" if rewrites else ".erases = &ERASES_%s, " % own["erases"].upper()
    guard = ".guard = &GUARD_%s" % own["guard"].upper() if own["guard"] else ""
    lines.append("    %s.times = &TIMES_%s, .status = &STATUS_%s, %s};" % (erases, own["times"].upper(), own["status"].upper(), guard))
    return "\n".join(lines)

def used(rows, key):
    return sorted({own[key] for *_, own in rows if own.get(key)})

def descriptors(rows, rewrites):
    out = []
    if not rewrites:
        for name in used(rows, "erases"):
            units = ", ".join("{%d, %d, %d, 0x%s, %s}" % (b, us, most, op, "0x" + op4 if op4 else "0") for b, us, most, op, op4 in ERASES[name])
            chip, ms = CHIP.get(name, ("C7", 2600))
            tail = ", .chip_opcode = 0x%s, .chip_ms_per_mib = %d" % (chip, ms) if chip else ""
            out.append("static const struct cm_nor_erases ERASES_%s = {.units = {%s}%s};" % (name.upper(), units, tail))
    for name in used(rows, "times"):
        out.append("static const struct cm_nor_times TIMES_%s = {.program_us = %d, .program_max_us = %d, .status_max_us = %d%s};" % (name.upper(), *TIMES[name], ", .program = cm_nor_program_words" if name in ("sst", "sst_wf") else ""))
    for name in used(rows, "status"):
        s = STATUS[name]
        extra = (", .clear = 0x%s" % s[5] if len(s) > 5 and s[5] else "") + (", .flag_status = true" if len(s) > 6 and s[6] else "") + (", .ones_while_busy = true" if len(s) > 7 else "")
        out.append("static const struct cm_nor_status STATUS_%s = {.count = %d, .enable = 0x%s, .read = %s, .write = %s, .kept = %s%s};"
                   % (name.upper(), s[0], s[1], hexes(s[2]), hexes(s[3]), hexes(s[4]), extra))
    for name in used(rows, "guard"):
        g = GUARD[name]
        text = ".bp = %s, .fraction = %d, .least_bytes = %d" % (hexes(g["bp"]), g["fraction"], g["least"])
        for key, field in (("mirrored", "mirrored"), ("vague", "vague"), ("volatile", "volatile_bits"), ("tb_fixed", "tb_fixed")):
            text += ", .%s = true" % field if g.get(key) else ""
        text += ", .by_sector = &cm_nor_sector_locks" if g.get("by_sector") else ""
        for key in ("tb", "cmp", "srl", "wps"):
            text += ", .%s_register = %d, .%s_mask = 0x%s" % (key, g[key][0], key, g[key][1]) if key in g else ""
        for key in ("sec", "lock"):
            text += ", .%s_mask = 0x%s" % (key, g[key]) if key in g else ""
        out.append("static const struct cm_nor_guard GUARD_%s = {%s};" % (name.upper(), text))
    return "\n".join(out)

def write(path, text):
    with open(os.path.join(ROOT, path), "w") as f:
        f.write(text)

def tables(rows, fam, what, rewrites):
    upper = fam.upper()
    names = [c_name(r[1]) for r in rows]
    assert len(set(names)) == len(names), [n for n in names if names.count(n) > 1]
    body = "/* Made by tools/nor-parts.py: change it there. %s. */\n#include <coldmint/%s_parts.h>\n\n" % (what, fam)
    body += descriptors(rows, rewrites) + "\n"
    last = None
    for title, name, *rest in rows:
        if rewrites:
            size, page, own = rest
            own = dict(own, page=page)
            id_hex = ""
        else:
            id_hex, kib, own = rest
            size = kib << 10
        assert len(name) < 16, name
        if title != last:
            body += "\n// " + title + "\n" if title else "\n"
        last = title
        body += row_c(name, id_hex, size, own, rewrites) + "\n"
    body += "\nconst struct cm_part *const cm_%s_all_parts[CM_%s_PART_COUNT] = {\n" % (fam, upper)
    body += "".join("    &%s.part,\n" % n for n in names) + "};\n"
    write("core/families/%s/parts.c" % fam, body)
    head = "/** %s. Made by tools/nor-parts.py: change it there. */\n#ifndef COLDMINT_%s_PARTS_H\n#define COLDMINT_%s_PARTS_H\n\n#include <coldmint/decls.h>\n#include <coldmint/nor.h>\n\nCM_DECLS_BEGIN\n\n" % (what, upper, upper)
    head += "enum { CM_%s_PART_COUNT = %d };\nextern const struct cm_part *const cm_%s_all_parts[CM_%s_PART_COUNT];\n\n" % (upper, len(rows), fam, upper)
    head += "".join("extern const struct cm_nor_part %s;\n" % n for n in names) + "\nCM_DECLS_END\n\n#endif\n"
    write("include/coldmint/%s_parts.h" % fam, head)
    print("%s: %d parts" % (fam, len(rows)))


tables(NOR, "nor", "SPI NOR flash", False)
tables(EE25, "ee25", "Serial EEPROMs on SPI", True)
