#include "core/advice/advice.h"

#include <nlohmann/json.hpp>

namespace zevo {

Result<AdviceBook> parseAdvice(const std::string& source, const std::string& name) {
    using nlohmann::json;
    const json root = json::parse(source, nullptr, false);
    auto refuse = [&](const std::string& path) {
        return Error{"The advice file “" + name + "” cannot be used: " + path + " is missing or of the wrong kind.",
                     name + path};
    };
    if (!root.is_object() || root.value("schema", json()) != "zevo-advice-1") return refuse("/schema");
    if (!root.contains("faults") || !root["faults"].is_object()) return refuse("/faults");
    AdviceBook book;
    for (const auto& [fault, o] : root["faults"].items()) {
        const std::string path = "/faults/" + fault;
        try {
            Advice a;
            a.fault = fault;
            a.title = o.at("title").get<std::string>();
            a.term = o.at("term").get<std::string>();
            a.unsure = o.at("unsure").get<std::string>();
            a.progress = o.at("progress").get<std::string>();
            for (const auto& c : o.at("say"))
                a.say.push_back({c.at("kind").get<std::string>(), c.at("text").get<std::string>()});
            for (const auto& c : o.at("change")) a.change.push_back(c.get<std::string>());
            for (const auto& d : o.at("prepare"))
                a.prepare.push_back({d.at("stage").get<std::string>(), d.at("text").get<std::string>(),
                                     d.at("dose").get<std::string>()});
            if (a.say.size() < 2 || a.change.empty() || a.prepare.empty()) return refuse(path);
            book[fault] = std::move(a);
        } catch (const json::exception& e) {
            auto error = refuse(path);
            error.detail += std::string(": ") + e.what();
            return error;
        }
    }
    return book;
}

}  // namespace zevo
