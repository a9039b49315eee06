using Walkdown.Bench;

// core: judging one full Card. save URL: a reading through HTTP, judged and durable, against a bare insert.
switch (args)
{
    case ["core"]:
        JudgeBenchmark.Run();
        return 0;
    case ["save", var address]:
        await SaveBenchmark.Run(new Uri(address));
        return 0;
    default:
        Console.Error.WriteLine("core | save URL; ./walkdown bench runs both");
        return 2;
}
