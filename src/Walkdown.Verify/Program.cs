using System.Text.Json;
using Walkdown.Verify;

// verify FILE|FOLDER...: worked cases through Core. Exit code 1 where a case fails, 2 where a file cannot be read.
var files = new List<string>();
foreach (var argument in args)
{
    if (Directory.Exists(argument))
        files.AddRange(Directory.EnumerateFiles(argument, "*.json").Order(StringComparer.Ordinal));
    else
        files.Add(argument);
}
if (files.Count == 0)
{
    Console.Error.WriteLine("verify: name a file or a folder of worked cases, such as docs/worked-cases");
    return 2;
}
int passed = 0,
    failed = 0;
var unreadable = false;
foreach (var file in files)
{
    try
    {
        foreach (var (id, difference) in CaseFile.Run(file))
        {
            if (difference is null)
                passed++;
            else
            {
                failed++;
                Console.WriteLine($"{id}: {difference}");
            }
        }
    }
    catch (Exception problem)
        when (problem is IOException or UnauthorizedAccessException or JsonException or KeyNotFoundException or InvalidOperationException)
    {
        unreadable = true;
        Console.Error.WriteLine($"{file}: cannot be read as worked cases: {problem.Message}");
    }
}
Console.WriteLine($"{passed} passed, {failed} failed");
return unreadable ? 2
    : failed > 0 ? 1
    : 0;
