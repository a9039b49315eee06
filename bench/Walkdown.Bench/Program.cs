using Walkdown.Bench;

// core: judging one full Card. save: a reading through HTTP, judged and durable, against a bare insert. site: a made-up site of any size.
switch (args)
{
    case ["core"]:
        JudgeBenchmark.Run();
        return 0;
    case ["save", var address]:
        await SaveBenchmark.Run(new Uri(address));
        return 0;
    case ["site-make", var folder, var devices, var readings]:
        await SiteBenchmark.Make(folder, int.Parse(devices), int.Parse(readings));
        return 0;
    case ["site-make", var folder, var devices, var readings, "every"]:
        await SiteBenchmark.Make(folder, int.Parse(devices), int.Parse(readings), every: true);
        return 0;
    case ["site-make", var folder, var devices, var readings, "found"]:
        await SiteBenchmark.Make(folder, int.Parse(devices), int.Parse(readings), found: true);
        return 0;
    case ["site", var address, var process]:
        await SiteBenchmark.Measure(new Uri(address), int.Parse(process));
        return 0;
    case ["door", var address, var process]:
        await DoorBenchmark.Run(new Uri(address), int.Parse(process));
        return 0;
    case ["lists", var devices]:
        AddressBenchmark.Lists(int.Parse(devices));
        return 0;
    case ["cameras", var devices]:
        await AddressBenchmark.Cameras(int.Parse(devices));
        return 0;
    case ["range", var addresses]:
        await AddressBenchmark.Sweep(int.Parse(addresses));
        return 0;
    case ["what-if", var streams]:
        RecordingBenchmark.WhatIf(int.Parse(streams));
        return 0;
    case ["proofs", var channels, var delay]:
        await RecordingBenchmark.Proofs(int.Parse(channels), int.Parse(delay));
        return 0;
    case ["aim", var pairs]:
        AimBenchmark.Pairs(int.Parse(pairs));
        return 0;
    case ["strangers", var pairs]:
        AimBenchmark.Strangers(int.Parse(pairs));
        return 0;
    case ["coverage", var placed]:
        CoverageBenchmark.Run(int.Parse(placed));
        return 0;
    case ["pictures", var python, var script, var times]:
        PictureBenchmark.Run(python, script, int.Parse(times));
        return 0;
    case ["focus", var pictures]:
        FocusBenchmark.Run(int.Parse(pictures));
        return 0;
    case ["plates", var drives]:
        PlateBenchmark.Run(int.Parse(drives));
        return 0;
    case ["night", var nights]:
        NightBenchmark.Run(int.Parse(nights));
        return 0;
    case ["night-draw", var kind, var night, var into]:
        NightBenchmark.Draw(kind, int.Parse(night), into);
        return 0;
    case ["identity", var channels]:
        IdentityBenchmark.Run(int.Parse(channels));
        return 0;
    case ["aim-draw", var pair, var into]:
        AimBenchmark.Draw(int.Parse(pair), into);
        return 0;
    case ["budgets"]:
        PowerBenchmark.Budgets();
        return 0;
    case ["pack", var address, var pid, var cards]:
        await HandoverBenchmark.Pack(new Uri(address), int.Parse(pid), int.Parse(cards));
        return 0;
    case ["bundle", var from, var to, var pid]:
        await HandoverBenchmark.Bundle(new Uri(from), new Uri(to), int.Parse(pid));
        return 0;
    case ["verify", var megabytes]:
        HandoverBenchmark.Verify(int.Parse(megabytes));
        return 0;
    case ["power-make", var demo, var folder, var devices]:
        PowerBenchmark.Make(demo, folder, int.Parse(devices));
        return 0;
    case ["sweep", var address, var delay]:
        await PowerBenchmark.Sweep(new Uri(address), double.Parse(delay));
        return 0;
    case ["file", var address, var rows]:
        await PowerBenchmark.File_(new Uri(address), int.Parse(rows));
        return 0;
    default:
        Console.Error.WriteLine(
            "core | what-if STREAMS | proofs CHANNELS MS | lists DEVICES | range ADDRESSES | cameras DEVICES | save URL | site-make DIR DEVICES READINGS | site URL PID | door URL PID | "
                + "budgets | power-make DEMO DIR DEVICES | pack URL PID CARDS | bundle FROM TO PID | verify MB | "
                + "sweep URL MS | file URL ROWS; ./walkdown bench runs them"
        );
        return 2;
}
