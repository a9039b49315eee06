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
    case ["site", var address, var process]:
        await SiteBenchmark.Measure(new Uri(address), int.Parse(process));
        return 0;
    default:
        Console.Error.WriteLine("core | save URL | site-make DIR DEVICES READINGS | site URL PID; ./walkdown bench runs them");
        return 2;
}
